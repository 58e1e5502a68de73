import { type Delta, type Json, reverted } from '@fresh-coat/core/edge/patch'
import { and, desc, eq, getTableColumns, isNull } from 'drizzle-orm'
import { settleTouched } from '../units/settle'
import { Change, type Changed } from './change'
import type { Db, Tx } from './client'
import { Refused } from './fault'
import { noteRipple } from './note-ripple'
import * as schema from './schema'
import { type AnyRow, anyTable, concernOf, type TableName, toldOf, unitOfRow } from './tables'

export interface Undone {
  /** The sentence of the event that was taken back. */
  undone: string
  /** What went back, in words. */
  back: string
}

type EventRow = typeof schema.eventRow.$inferSelect
type Event = typeof schema.event.$inferSelect

/** Dates come out of JSON as text. */
function revived(table: TableName, told: Record<string, Json>): Record<string, unknown> {
  const columns = getTableColumns(anyTable(table)) as Record<string, { dataType: string }>
  return Object.fromEntries(
    Object.entries(told).map(([key, value]) => [
      key,
      columns[key]?.dataType === 'date' && typeof value === 'string' ? new Date(value) : value,
    ]),
  )
}

/** A confirmation that a command ended does not come back: a gate is only ever opened by confirming it. */
const staysAsItIs = (row: EventRow): boolean => row.table === 'gate' && !row.made

async function lastEvent(tx: Tx, unitId: string | null): Promise<Event | undefined> {
  const [last] = await tx
    .select()
    .from(schema.event)
    .where(
      and(schema.event.undoable, isNull(schema.event.undoneAt), unitId ? eq(schema.event.unitId, unitId) : undefined),
    )
    .orderBy(...(unitId ? [] : [desc(schema.event.until)]), desc(schema.event.id))
    .limit(1)
    .for('update')
  return last
}

/** Refuses when a later change of another event stands on a row of this one. */
async function refuseIfChanged(tx: Tx, event: Event, row: EventRow): Promise<void> {
  const [newest] = await tx
    .select({ id: schema.event.id, sentence: schema.event.sentence })
    .from(schema.eventRow)
    .innerJoin(schema.event, eq(schema.eventRow.eventId, schema.event.id))
    .where(and(eq(schema.eventRow.rowId, row.rowId), isNull(schema.event.undoneAt)))
    .orderBy(desc(schema.eventRow.eventId))
    .limit(1)
  if (!newest || newest.id === event.id) return
  throw new Refused(
    'changed-since',
    `“${event.sentence}” was followed by “${newest.sentence}”, so it is not undone.`,
    'Undo the later change first, on the page where it was made.',
  )
}

async function takeBack(tx: Tx, c: Change, row: EventRow, now: Date): Promise<void> {
  const table = row.table as TableName
  const t = anyTable(table)
  const [found] = await tx.select().from(t).where(eq(t.id, row.rowId)).for('update')
  const current = found as AnyRow | undefined
  if (!current || staysAsItIs(row)) return
  const back = row.made ? { struckAt: now } : revived(table, changedBy(toldOf(table, current), row.patch as Delta))
  await tx
    .update(t)
    .set({ ...back, version: current.version + 1 } as never)
    .where(eq(t.id, row.rowId))
  for (const one of [current, { ...current, ...back } as AnyRow]) {
    const unitId = unitOfRow(table, one)
    if (unitId) c.touch(unitId, table, one.step)
  }
  const concern = concernOf(table, current)
  if (concern) await noteRipple(tx, concern.kind, concern.ref)
}

/** The columns that go back, as they were. */
function changedBy(current: Record<string, Json>, patch: Delta): Record<string, Json> {
  const before = reverted(current, patch) as Record<string, Json>
  const columns = 'in' in patch ? Object.keys(patch.in) : Object.keys(before)
  return Object.fromEntries(columns.map((column) => [column, before[column] ?? null]))
}

const nouns: Partial<Record<TableName, [string, string]>> = {
  stepSeries: ['entry', 'entries'],
  attempt: ['attempt, struck out', 'attempts, struck out'],
  file: ['file', 'files'],
  toolWords: ['tool’s words', 'tools’ words'],
  boardFact: ['fact of the board', 'facts of the board'],
  gate: ['confirmation', 'confirmations'],
}

/** "note, ohms; 2 entries": what of an event goes back. */
function backWords(rows: readonly EventRow[]): string {
  const fields = rows.flatMap((r) => {
    const patch = r.patch as Delta
    if (r.made || r.table in nouns || !('in' in patch)) return []
    const data = patch.in.data
    return data && 'in' in data ? Object.keys(data.in) : Object.keys(patch.in).filter((k) => k !== 'updatedAt')
  })
  const counts = Object.entries(nouns).flatMap(([table, [one, many]]) => {
    const n = rows.filter((r) => r.table === table && !staysAsItIs(r)).length
    return n > 0 ? [`${n} ${n === 1 ? one : many}`] : []
  })
  return [[...new Set(fields)].join(', '), ...counts].filter(Boolean).join('; ')
}

/**
 * Takes back the newest change that is not undone yet: of one unit, or of all. Rows that it made are struck, rows that it
 * changed get back what they were; nothing is removed, and gates stay closed.
 */
export const undoLast = (db: Db, by: string, unitId: string | null, now: Date): Promise<Changed<Undone>> =>
  db.transaction(async (tx) => {
    const last = await lastEvent(tx, unitId)
    if (!last) throw new Refused('nothing-to-undo', 'There is nothing to undo.')
    const rows = await tx
      .select()
      .from(schema.eventRow)
      .where(eq(schema.eventRow.eventId, last.id))
      .orderBy(desc(schema.eventRow.id))
    for (const row of rows) await refuseIfChanged(tx, last, row)
    const c = new Change(tx, by, now)
    for (const row of rows) await takeBack(tx, c, row, now)
    await tx.update(schema.event).set({ undoneAt: now }).where(eq(schema.event.id, last.id))
    await c.tell({
      kind: 'undone',
      unitId: last.unitId,
      boardId: last.boardId,
      step: last.step,
      sentence: `${last.sentence}, taken back`,
    })
    await settleTouched(tx, c.touched, now, true)
    return { value: { undone: last.sentence, back: backWords(rows) }, touched: c.touched, events: c.events }
  })
