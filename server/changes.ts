import { and, eq, getTableColumns, isNull, sql } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import type { Db, Tx } from './db'
import * as schema from './schema'

/** Rows that people change: each has an id and a version. The names are kept in events, so they never change. */
const tables = {
  board: schema.board,
  boardFact: schema.boardFact,
  unit: schema.unit,
  stepRecord: schema.stepRecord,
  gate: schema.gate,
  attempt: schema.attempt,
  trouble: schema.trouble,
  marking: schema.marking,
  calibration: schema.calibration,
  hub: schema.hub,
  hubTest: schema.hubTest,
  kit: schema.kit,
  profile: schema.profile,
  file: schema.file,
  secret: schema.secret,
} as const
export type TableName = keyof typeof tables
type RowOf<T extends TableName> = (typeof tables)[T]['$inferSelect']
type NewRow<T extends TableName> = (typeof tables)[T]['$inferInsert']

interface RowChange {
  table: TableName
  id: string
  /** The row before, or null when it was made. */
  before: Record<string, unknown> | null
  /** Its version after the change: undo refuses when somebody has changed it since. */
  version: number
}

/** Somebody else changed the row first; both versions are kept. */
export class StaleWrite extends Error {
  constructor(readonly current: Record<string, unknown>) {
    super('Somebody changed this in the meantime.')
  }
}

/** A command that cannot be carried out, in words for the page. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly next = '',
  ) {
    super(message)
  }
}

type AnyTable = PgTable & { id: never; version: never }
const loose = (table: TableName) => tables[table] as unknown as AnyTable

/** One change of the world: rows and the event that tells of them, in one transaction. */
export class Change {
  private readonly rows: RowChange[] = []
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
    const made = row as RowOf<T>
    this.rows.push({ table, id: made.id, before: null, version: made.version })
    return made
  }

  /** @param expected version the person saw; null where nobody edits by hand */
  async update<T extends TableName>(
    table: T,
    id: string,
    expected: number | null,
    patch: Partial<NewRow<T>>,
  ): Promise<RowOf<T>> {
    const t = loose(table)
    const [before] = await this.tx.select().from(t).where(eq(t.id, id)).for('update')
    if (!before) throw new Refused('gone', 'It is not there any more.', 'Go back and open it again.')
    const current = before as RowOf<T>
    if (expected !== null && current.version !== expected) throw new StaleWrite(current as Record<string, unknown>)
    const version = current.version + 1
    const [row] = await this.tx
      .update(t)
      .set({ ...patch, version } as never)
      .where(eq(t.id, id))
      .returning()
    this.rows.push({ table, id, before: current as Record<string, unknown>, version })
    return row as RowOf<T>
  }

  /** Writes the event; the secrets in a row are never part of it. */
  async tell(event: {
    kind: string
    sentence: string
    unitId?: string | null
    boardId?: string | null
    step?: string | null
  }): Promise<void> {
    // What somebody logged or noted of an attempt stays; a read that was concluded from a file goes with the file.
    const concluded = event.kind === 'file-kept'
    const changes = this.rows.filter((r) => r.table !== 'secret' && (r.table !== 'attempt' || concluded))
    await this.tx.insert(schema.event).values({ at: this.now, by: this.by, ...event, changes })
    this.rows.length = 0
  }
}

/** Runs a command in a transaction. Everything in it happens, or nothing. */
export const change = <R>(db: Db, by: string, now: Date, run: (change: Change) => Promise<R>): Promise<R> =>
  db.transaction(async (tx) => run(new Change(tx, by, now)))

function revived(table: TableName, row: Record<string, unknown>): Record<string, unknown> {
  const columns = getTableColumns(loose(table)) as Record<string, { dataType: string }>
  return Object.fromEntries(
    Object.entries(row).map(([key, value]) => [
      key,
      columns[key]?.dataType === 'date' && typeof value === 'string' ? new Date(value) : value,
    ]),
  )
}

/** The event that made the version now restored under a new number: undoing it next must find that number. */
async function carryOn(tx: Tx, row: RowChange, restored: number): Promise<void> {
  const was = (row.before as { version: number }).version
  const older = await tx
    .select()
    .from(schema.event)
    .where(
      and(
        isNull(schema.event.undoneAt),
        sql`${schema.event.changes} @> ${JSON.stringify([{ id: row.id, version: was }])}::jsonb`,
      ),
    )
  for (const event of older) {
    const changes = (event.changes as RowChange[]).map((c) =>
      c.id === row.id && c.version === was ? { ...c, version: restored } : c,
    )
    await tx.update(schema.event).set({ changes }).where(eq(schema.event.id, event.id))
  }
}

/** Takes back the newest change that is not undone yet: of one unit, or of all. Returns what was undone. */
export async function undoLast(db: Db, by: string, unitId: string | null): Promise<string> {
  return db.transaction(async (tx) => {
    const [last] = await tx
      .select()
      .from(schema.event)
      .where(
        and(
          isNull(schema.event.undoneAt),
          sql`jsonb_array_length(${schema.event.changes}) > 0`,
          unitId ? eq(schema.event.unitId, unitId) : undefined,
        ),
      )
      .orderBy(sql`${schema.event.id} desc`)
      .limit(1)
      .for('update')
    if (!last) throw new Refused('nothing-to-undo', 'There is nothing to undo.')
    for (const row of (last.changes as RowChange[]).slice().reverse()) {
      const t = loose(row.table)
      const [current] = await tx.select().from(t).where(eq(t.id, row.id)).for('update')
      const version = (current as { version: number } | undefined)?.version
      if (version !== row.version)
        throw new Refused(
          'changed-since',
          'It was changed since then, so it is not undone.',
          'Undo the later change first.',
        )
      if (row.before === null) {
        await tx.delete(t).where(eq(t.id, row.id))
        continue
      }
      const restored = row.version + 1
      await tx
        .update(t)
        .set({ ...revived(row.table, row.before), version: restored } as never)
        .where(eq(t.id, row.id))
      await carryOn(tx, row, restored)
    }
    await tx.update(schema.event).set({ undoneAt: new Date() }).where(eq(schema.event.id, last.id))
    await tx.insert(schema.event).values({
      by,
      kind: 'undone',
      unitId: last.unitId,
      boardId: last.boardId,
      step: last.step,
      sentence: `undone: ${last.sentence}`,
      changes: [],
    })
    return last.sentence
  })
}
