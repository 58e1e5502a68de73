import type { UnitView } from '@fresh-coat/core/unit/view'
import { and, eq, isNull } from 'drizzle-orm'
import type { Change } from '../db/change'
import { Refused } from '../db/fault'
import * as schema from '../db/schema'
import { type Bundled, bundleById } from './bundle'
import { unitView } from './load'

const noUnit = () => new Refused('no-unit', 'There is no such unit.', 'Go back to Units.')

/** Takes a unit for this transaction: two commands on one unit happen one after the other, whoever sends them. */
export async function holdUnit(c: Change, unitId: string): Promise<Bundled> {
  const [row] = await c.tx
    .select({ id: schema.unit.id })
    .from(schema.unit)
    .where(and(eq(schema.unit.id, unitId), isNull(schema.unit.struckAt)))
    .for('update')
  const found = row ? await bundleById(c.tx, unitId) : null
  if (!found) throw noUnit()
  return found
}

/** The unit as core judges it, held for this transaction. */
export async function viewOf(c: Change, unitId: string): Promise<UnitView> {
  return unitView(await holdUnit(c, unitId), c.now)
}
