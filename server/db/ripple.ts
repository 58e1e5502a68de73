import { and, asc, eq, gt, inArray, isNull, type SQL, sql } from 'drizzle-orm'
import { renewClashes } from '../network/clashes'
import { settleUnit } from '../units/settle'
import type { Db, Tx } from './client'
import * as schema from './schema'
import type { RippleKind } from './tables'
import { warmSoon } from './warm'

/** What is shared changes many units' states: each is worked out again in the background, a few at a time. */

const atOnce = 40

const concerned = (kind: RippleKind, ref: string): SQL | undefined =>
  ({
    board: () => eq(schema.unit.boardId, ref),
    adapter: () => sql`${schema.unit.id} in (select unit_id from unit_state where adapter_id = ${ref}::uuid)`,
    // A unit that never saved its pads has those that its board names.
    module:
      () => sql`(${schema.unit.id} in (select unit_id from step_record where step = 'pads' and data ->> 'moduleId' = ${ref}
        and struck_at is null)
      or ${schema.unit.boardId} in (select board_id from board_fact where key = 'pads' and value ->> 'moduleId' = ${ref}
        and struck_at is null))`,
    firmware: () =>
      sql`${schema.unit.id} in (select unit_id from unit_state where firmware_chosen like ${`${ref.replace(/[%_\\]/g, '\\$&')}%`})`,
    all: () => undefined,
    name: () => undefined,
  })[kind]()

type Ripple = typeof schema.ripple.$inferSelect

/** The oldest ripple nobody else carries. Others that say the same are behind it: what they tell of is committed, so it is seen. */
async function oldest(tx: Tx): Promise<Ripple | undefined> {
  const [found] = await tx
    .select()
    .from(schema.ripple)
    .orderBy(asc(schema.ripple.id))
    .limit(1)
    .for('update', { skipLocked: true })
  if (found && found.reached === 0)
    await tx.execute(
      sql`delete from ripple where id in
          (select id from ripple where kind = ${found.kind} and ref = ${found.ref} and reached = 0 and id > ${found.id}
           for update skip locked)`,
    )
  return found
}

const namesAtOnce = 40

/** Names that changed, several together: each is held against all there are, which are read once. */
async function carryNames(db: Db): Promise<void> {
  const { ripple } = schema
  const found = await db
    .select({ id: ripple.id, ref: ripple.ref })
    .from(ripple)
    .where(eq(ripple.kind, 'name'))
    .orderBy(asc(ripple.id))
    .limit(namesAtOnce)
  const units = [...new Set(found.map((r) => r.ref))]
  const noted = found.map((r) => r.id)
  await db.transaction((tx) => renewClashes(tx, units))
  await db.delete(ripple).where(inArray(ripple.id, noted))
}

/** One piece of the oldest ripple; false when nothing is left. */
async function carryOn(db: Db, now: Date): Promise<boolean> {
  const found = await db.transaction(oldest)
  if (!found) return false
  const kind = found.kind as RippleKind
  if (kind === 'name') {
    await carryNames(db)
    return true
  }
  const done = () => db.delete(schema.ripple).where(eq(schema.ripple.id, found.id))
  const units = await db
    .select({ id: schema.unit.id, number: schema.unit.number })
    .from(schema.unit)
    .where(and(isNull(schema.unit.struckAt), gt(schema.unit.number, found.reached), concerned(kind, found.ref)))
    .orderBy(asc(schema.unit.number))
    .limit(atOnce)
  // One unit a transaction: a command that waits for its unit waits for one, and nothing is locked in two orders.
  for (const { id } of units) await db.transaction((tx) => settleUnit(tx, id, now))
  const last = units.at(-1)
  if (!last || units.length < atOnce) await done()
  else await db.update(schema.ripple).set({ reached: last.number }).where(eq(schema.ripple.id, found.id))
  return true
}

interface Run {
  begun: boolean
  done: Promise<void>
}
/** The last run that was asked for. */
const runs = new WeakMap<Db, Run>()

/**
 * Carries every ripple to its end. Who comes while that goes on gets a run after it, since the first may have passed by what was noted
 * meanwhile; and all who come before that one has begun get the same.
 */
export function settleRipples(db: Db): Promise<void> {
  const last = runs.get(db)
  if (last && !last.begun) return last.done
  const run: Run = { begun: false, done: Promise.resolve() }
  const before = last?.done.catch(() => {}) ?? Promise.resolve()
  run.done = before
    .then(async () => {
      run.begun = true
      while (await carryOn(db, new Date()));
    })
    .finally(() => {
      if (runs.get(db) === run) runs.delete(db)
    })
  runs.set(db, run)
  return run.done
}

/** The same in the background: a failure is logged, and the next change or start goes on where it ended. */
export function settleSoon(db: Db): void {
  settleRipples(db)
    .catch((cause) => console.error('units are looked at again later:', (cause as Error).message))
    .finally(() => warmSoon(db))
}
