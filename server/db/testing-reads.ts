import type { UnitView } from '@fresh-coat/core/unit/view'
import { isNull } from 'drizzle-orm'
import { images } from '../files/reads'
import { markings, priorOf, profiles } from '../kit/reads'
import { loadUnit } from '../units/load'
import type { Db } from './client'
import * as schema from './schema'

/** Everything there is, for tests only: nothing that ships reads the whole place at once. */
export async function loadAll(db: Db, now = new Date()) {
  const ids = await db
    .select({ id: schema.unit.id })
    .from(schema.unit)
    .where(isNull(schema.unit.struckAt))
    .orderBy(schema.unit.number)
  const units: UnitView[] = []
  for (const { id } of ids) {
    const view = await loadUnit(db, id, now)
    if (view) units.push(view)
  }
  return {
    units,
    images: await images(db),
    markings: await markings(db),
    profiles: await profiles(db),
    prior: await priorOf(db),
  }
}
