import { deltaOf, type Json } from '@fresh-coat/core/edge/patch'
import { planTopics } from '@fresh-coat/core/topics/plan'
import { isSlug, reservedSlugs } from '@fresh-coat/core/topics/slug'
import { readRecord } from '@fresh-coat/core/unit/records'
import { nameOf } from '@fresh-coat/core/unit/state'
import { and, desc, eq, inArray, isNotNull, isNull, lt } from 'drizzle-orm'
import { siteOf } from '../network/reads'
import { bindOldSecrets } from '../secrets/seal'
import { recountPace } from '../units/pace'
import { settleAll } from '../units/settle'
import type { Db } from './client'
import * as schema from './schema'
import { type AnyRow, anyTable, type TableName, tables, toldOf } from './tables'

/** Brings what older versions stored to what this one reads; each part does nothing when it was done before. */

interface OldChange {
  table: TableName
  id: string
  before: Record<string, Json> | null
}

const eventsAtOnce = 200

async function rowsNow(db: Db, changes: readonly OldChange[]): Promise<Map<string, Record<string, Json>>> {
  const now = new Map<string, Record<string, Json>>()
  for (const table of new Set(changes.map((c) => c.table))) {
    if (!(table in tables)) continue
    const t = anyTable(table)
    const ids = [...new Set(changes.filter((c) => c.table === table).map((c) => c.id))]
    const rows = (await db.select().from(t).where(inArray(t.id, ids))) as AnyRow[]
    for (const row of rows) now.set(row.id, toldOf(table, row))
  }
  return now
}

/** Only what the old copy knew of can go back: columns that came later have no "before". */
const knownOf = (row: Record<string, Json>, like: Record<string, Json>): Record<string, Json> =>
  Object.fromEntries(Object.entries(row).filter(([key]) => key in like))

/**
 * Events of before the patches held whole copies of rows as they were. What each change made of a row is what the next
 * newer event found, or what is there now; so it goes from the newest event to the oldest.
 */
async function patchOldEvents(db: Db): Promise<void> {
  const after = new Map<string, Record<string, Json>>()
  for (let before = Number.MAX_SAFE_INTEGER; ; ) {
    const events = await db
      .select({ id: schema.event.id, changes: schema.event.changes })
      .from(schema.event)
      .where(and(isNotNull(schema.event.changes), lt(schema.event.id, before)))
      .orderBy(desc(schema.event.id))
      .limit(eventsAtOnce)
    if (events.length === 0) return
    const all = events.flatMap((e) => e.changes as OldChange[])
    for (const [id, row] of await rowsNow(
      db,
      all.filter((c) => !after.has(c.id)),
    ))
      after.set(id, row)
    await db.transaction(async (tx) => {
      for (const event of events) {
        for (const c of (event.changes as OldChange[]).slice().reverse()) {
          const is = after.get(c.id)
          if (!is) continue
          const was = c.before ? knownOf(toldOf(c.table, c.before as unknown as AnyRow), is) : {}
          const patch = deltaOf(was, c.before ? knownOf(is, was) : is) ?? { in: {} }
          await tx
            .insert(schema.eventRow)
            .values({ eventId: event.id, table: c.table, rowId: c.id, made: c.before === null, patch })
          if (c.before) after.set(c.id, { ...is, ...was })
        }
        await tx.update(schema.event).set({ changes: null }).where(eq(schema.event.id, event.id))
      }
    })
    before = (events.at(-1) as { id: number }).id
  }
}

const mostPlanned = 2000

/** Topics as they were planned for all units together: what is in service keeps the one it has. */
async function nameAsBefore(db: Db): Promise<void> {
  const { unit, stepRecord } = schema
  const units = await db
    .select({ unit, shape: stepRecord.shape, name: stepRecord.data })
    .from(unit)
    .leftJoin(stepRecord, and(eq(stepRecord.unitId, unit.id), eq(stepRecord.step, 'name')))
    .where(isNull(unit.struckAt))
    .orderBy(unit.number)
  if (units.length === 0 || units.length > mostPlanned || units.some((u) => u.unit.slug !== '')) return
  const site = await siteOf(db)
  const named = units.map((u) => {
    const read = u.name ? readRecord('name', u.shape ?? 1, u.name) : null
    const { pinned = '', spoken = '' } = read?.ok ? read.data : {}
    const usable = isSlug(pinned) && !reservedSlugs.has(pinned) ? pinned : ''
    return { id: u.unit.id, number: u.unit.number, name: u.unit.name, pinned: usable, spoken }
  })
  const plan = planTopics({
    base: site.base,
    site: site.slug,
    units: named.map((u) => ({ ...u, pinned: u.pinned || null, spoken: u.spoken || null })),
  })
  if (!plan.ok) return
  for (const u of named) {
    const slug = plan.value.units.find((p) => p.id === u.id)?.slug ?? ''
    await db
      .update(unit)
      .set({ ...nameOf(u), slug })
      .where(eq(unit.id, u.id))
  }
}

/** @returns how many units were looked at, 0 when nothing was to do */
export async function upgradeStored(db: Db, now = new Date()): Promise<number> {
  await patchOldEvents(db)
  await bindOldSecrets(db)
  const units = await db.$count(schema.unit, isNull(schema.unit.struckAt))
  const states = await db.$count(schema.unitState)
  if (units === 0 || states >= units) return 0
  await nameAsBefore(db)
  await recountPace(db)
  return settleAll(db, now)
}
