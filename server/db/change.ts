import { composed, type Delta, deltaOf } from '@fresh-coat/core/edge/patch'
import { and, desc, eq, isNull, type SQL } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import { noteMoment } from '../units/pace'
import { settleTouched } from '../units/settle'
import type { Db, Tx } from './client'
import { Refused, StaleWrite } from './fault'
import { noteRipple } from './note-ripple'
import * as schema from './schema'
import {
  type AnyRow,
  anyTable,
  concernOf,
  type NewRow,
  type RowOf,
  type TableName,
  tables,
  toldOf,
  unitOfRow,
} from './tables'

/** Typing in one record by one person is one event, as long as the pauses stay under this. */
const typingMinutes = 10

interface ToldRow {
  table: TableName
  id: string
  made: boolean
  patch: Delta | null
}

export interface Told {
  kind: string
  sentence: string
  unitId?: string | null
  boardId?: string | null
  step?: string | null
  /** How the sentence begins while one thing is typed: it joins the newest event when that is the same typing. */
  typing?: string
}

/** What changed in a unit: kinds of rows, and steps whose records did. */
export interface TouchedParts {
  tables: Set<TableName>
  steps: Set<string>
  /** Its state may follow: not where only what no event tells of has changed. */
  settles: boolean
}
export type Touched = Map<string, TouchedParts>
const recordTables: ReadonlySet<TableName> = new Set(['stepRecord', 'stepSeries', 'stepText'])

/** One change of the world: rows, the event that tells of them, and the units' states that follow, in one transaction. */
export class Change {
  private rows: ToldRow[] = []
  /** Units whose rows changed, and where: their state is worked out anew, and the page told. */
  readonly touched: Touched = new Map()
  readonly events: number[] = []

  constructor(
    readonly tx: Tx,
    readonly by: string,
    readonly now: Date,
  ) {}

  async insert<T extends TableName>(table: T, values: NewRow<T>): Promise<RowOf<T>> {
    const [row] = await this.tx
      .insert(tables[table] as PgTable)
      .values(values as never)
      .returning()
    await this.note(table, null, row as AnyRow)
    return row as RowOf<T>
  }

  /** @param expected version the person saw; null where nobody edits by hand */
  async update<T extends TableName>(
    table: T,
    id: string,
    expected: number | null,
    patch: Partial<NewRow<T>>,
  ): Promise<RowOf<T>> {
    const t = anyTable(table)
    const [found] = await this.tx
      .select()
      .from(t)
      .where(and(eq(t.id, id), isNull(t.struckAt)))
      .for('update')
    if (!found) throw new Refused('gone', 'It is not there any more.', 'Go back and open it again.')
    const before = found as AnyRow
    if (expected !== null && before.version !== expected) throw new StaleWrite(before)
    const [row] = await this.tx
      .update(t)
      .set({ ...patch, version: before.version + 1 } as never)
      .where(eq(t.id, id))
      .returning()
    await this.note(table, before, row as AnyRow)
    return row as RowOf<T>
  }

  /** Strikes a row out: it stays for the ledger and is in nothing else. */
  strike(table: TableName, id: string): Promise<unknown> {
    return this.update(table, id, null, { struckAt: this.now } as never)
  }

  /** Rows of a table that are not struck. */
  async live<T extends TableName>(table: T, where?: SQL): Promise<RowOf<T>[]> {
    const t = anyTable(table)
    return (await this.tx
      .select()
      .from(t)
      .where(and(isNull(t.struckAt), where))) as RowOf<T>[]
  }

  /** Marks a unit whose state follows from this row. */
  touch(unitId: string, table: TableName, step: unknown = null, settles = true): void {
    const parts = this.touched.get(unitId) ?? { tables: new Set(), steps: new Set(), settles: false }
    parts.settles ||= settles
    parts.tables.add(table)
    if (recordTables.has(table) && typeof step === 'string') parts.steps.add(step)
    this.touched.set(unitId, parts)
  }

  /** Writes the event of the rows changed since the last one. */
  async tell({ typing, ...event }: Told): Promise<void> {
    const rows = this.rows
    this.rows = []
    if (event.unitId)
      await noteMoment(this.tx, event.unitId, this.now, event.kind === 'step-done' && event.step === 'prove')
    if (typing !== undefined && (await this.addToTyping(event, rows, typing))) return
    const [made] = await this.tx
      .insert(schema.event)
      .values({ at: this.now, until: this.now, by: this.by, ...event, undoable: rows.length > 0 })
      .returning({ id: schema.event.id })
    const eventId = (made as { id: number }).id
    this.events.push(eventId)
    await this.keepRows(eventId, rows)
  }

  private async note(table: TableName, before: AnyRow | null, after: AnyRow): Promise<void> {
    const patch = deltaOf(before ? toldOf(table, before) : {}, toldOf(table, after))
    const earlier = this.rows.find((r) => r.id === after.id)
    if (earlier) earlier.patch = composed(earlier.patch, patch)
    else if (patch) this.rows.push({ table, id: after.id, made: before === null, patch })
    for (const row of before ? [before, after] : [after]) {
      const unitId = unitOfRow(table, row)
      if (unitId) this.touch(unitId, table, row.step, patch !== null)
    }
    const concern = concernOf(table, after)
    if (concern) await noteRipple(this.tx, concern.kind, concern.ref)
  }

  private async keepRows(eventId: number, rows: readonly ToldRow[]): Promise<void> {
    if (rows.length === 0) return
    await this.tx
      .insert(schema.eventRow)
      .values(rows.map((r) => ({ eventId, table: r.table, rowId: r.id, made: r.made, patch: r.patch ?? { in: {} } })))
  }

  /** Adds to the newest event of the unit when that is the same typing; false when a new event is due. */
  private async addToTyping(event: Told, rows: readonly ToldRow[], begins: string): Promise<boolean> {
    if (!event.unitId) return false
    const [last] = await this.tx
      .select()
      .from(schema.event)
      .where(eq(schema.event.unitId, event.unitId))
      .orderBy(desc(schema.event.id))
      .limit(1)
      .for('update')
    const same =
      last &&
      last.undoneAt === null &&
      last.kind === event.kind &&
      last.step === (event.step ?? null) &&
      last.by === this.by &&
      last.sentence.startsWith(begins) &&
      this.now.getTime() - last.until.getTime() < typingMinutes * 60_000 &&
      this.now >= last.until
    if (!same) return false
    const told = await this.tx.select().from(schema.eventRow).where(eq(schema.eventRow.eventId, last.id))
    const added: ToldRow[] = []
    for (const row of rows) {
      const earlier = told.find((t) => t.rowId === row.id)
      if (!earlier) {
        added.push(row)
        continue
      }
      const patch = composed(earlier.patch as Delta, row.patch) ?? { in: {} as Record<string, never> }
      await this.tx.update(schema.eventRow).set({ patch }).where(eq(schema.eventRow.id, earlier.id))
    }
    await this.keepRows(last.id, added)
    await this.tx
      .update(schema.event)
      .set({ until: this.now, undoable: true, sentence: event.sentence })
      .where(eq(schema.event.id, last.id))
    this.events.push(last.id)
    return true
  }

  /** True when something was changed that no event tells of yet: a bug of the command. */
  get untold(): boolean {
    return this.rows.length > 0
  }
}

export interface Changed<R> {
  value: R
  /** What to tell the page. */
  touched: Touched
  events: readonly number[]
}

/** Runs a command in a transaction. Everything in it happens, or nothing; the states of its units follow in the same one. */
export const change = <R>(db: Db, by: string, now: Date, run: (change: Change) => Promise<R>): Promise<Changed<R>> =>
  db.transaction(async (tx) => {
    const c = new Change(tx, by, now)
    const value = await run(c)
    if (c.untold) throw new Error('A change that no event tells of')
    await settleTouched(tx, c.touched, now)
    return { value, touched: c.touched, events: c.events }
  })
