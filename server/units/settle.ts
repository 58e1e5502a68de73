import { stateOf } from '@fresh-coat/core/unit/state'
import { and, eq, isNotNull, isNull, lte, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Touched, TouchedParts } from '../db/change'
import type { Db, Tx } from '../db/client'
import { localDay } from '../db/day'
import * as schema from '../db/schema'
import { nameUnit } from '../network/naming'
import { standing } from './bundle'
import { loadUnit } from './load'

/** Works out the states of units after a change, in the transaction that made it. */

/** A record may hold any text where an id belongs. */
const idOrNull = (text: string | null): string | null => (z.uuid().safeParse(text).success ? text : null)

/** The state of one unit, from everything that is stored of it. A struck unit has none. */
export async function settleUnit(tx: Tx, unitId: string, now: Date): Promise<void> {
  // One after the other: whoever comes second reads what the first one wrote.
  await tx.select({ id: schema.unit.id }).from(schema.unit).where(eq(schema.unit.id, unitId)).for('update')
  const view = await loadUnit(tx, unitId, now, standing)
  if (!view) {
    await tx.delete(schema.unitState).where(eq(schema.unitState.unitId, unitId))
    return
  }
  const state = stateOf(view)
  const row = { ...state, imageId: idOrNull(state.imageId), adapterId: idOrNull(state.adapterId) }
  await tx
    .insert(schema.unitState)
    .values({ unitId, ...row })
    .onConflictDoUpdate({ target: schema.unitState.unitId, set: row })
}

/** Time at the bench counts for the board that the unit has now. */
async function movePace(tx: Tx, unitId: string): Promise<void> {
  await tx.execute(
    sql`update unit_pace p set board_id = u.board_id from unit u
        where p.unit_id = ${unitId} and u.id = p.unit_id and p.board_id is distinct from u.board_id`,
  )
}

/** A unit's own row, or what is pinned at Name, may change its name in topics. */
const mayRename = ({ tables, steps }: TouchedParts): boolean => tables.has('unit') || steps.has('name')

export async function settleTouched(tx: Tx, touched: Touched, now: Date, undoing = false): Promise<void> {
  const changed = [...touched].filter(([, parts]) => parts.settles)
  const units = new Set(changed.map(([id]) => id))
  for (const [id, parts] of changed)
    if (mayRename(parts)) for (const other of await nameUnit(tx, id, undoing)) units.add(other)
  for (const id of [...units].sort()) {
    await settleUnit(tx, id, now)
    if (touched.get(id)?.tables.has('unit')) await movePace(tx, id)
  }
}

const mostOverdue = 200

/** Units whose state was true until today: overdue work shows without anybody touching them. */
export async function settleOverdue(db: Db, now: Date): Promise<void> {
  const { unitState } = schema
  const due = await db
    .select({ id: unitState.unitId })
    .from(unitState)
    .where(and(isNotNull(unitState.holdsUntil), lte(unitState.holdsUntil, localDay(now))))
    .orderBy(unitState.holdsUntil)
    .limit(mostOverdue)
  for (const { id } of due) await db.transaction((tx) => settleUnit(tx, id, now))
}

/** Works out every unit's state anew; what is there now is not looked at. */
export async function settleAll(db: Db, now: Date, each: () => void = () => {}): Promise<number> {
  const all = await db
    .select({ id: schema.unit.id })
    .from(schema.unit)
    .where(isNull(schema.unit.struckAt))
    .orderBy(schema.unit.number)
  for (const { id } of all) {
    await db.transaction(async (tx) => {
      await nameUnit(tx, id)
      await settleUnit(tx, id, now)
    })
    each()
  }
  return all.length
}
