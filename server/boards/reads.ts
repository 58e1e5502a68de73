import { type BoardFactKey, type BoardFacts, boardFactKeys, readBoardFact } from '@fresh-coat/core/unit/board'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import type * as schema from '../db/schema'

export type BoardRow = typeof schema.board.$inferSelect

export const boardName = (b: Pick<BoardRow, 'maker' | 'product' | 'revision'>): string =>
  [b.maker, b.product, b.revision].filter(Boolean).join(' ')

/** The newest value of every fact of a board: one look into the index per fact, however many units taught it. */
export async function factsOfBoard(source: Source, boardId: string): Promise<BoardFacts> {
  const keys = sql.join(
    boardFactKeys.map((key) => sql`(${key})`),
    sql`, `,
  )
  const found = await source.execute(
    sql`select k.key, f.value from (values ${keys}) as k(key) cross join lateral
        (select value from board_fact where board_id = ${boardId} and key = k.key and struck_at is null
         order by at desc limit 1) f`,
  )
  const facts = Object.fromEntries(boardFactKeys.map((key) => [key, null])) as unknown as BoardFacts
  for (const row of found.rows as { key: BoardFactKey; value: unknown }[])
    Object.assign(facts, { [row.key]: readBoardFact(row.key, row.value) })
  return facts
}

export interface FactEvidence {
  key: BoardFactKey
  value: unknown
  unitNumber: number | null
  step: string | null
  at: string
}

const mostEvidence = 8

/** Who taught each fact, the newest eight of each. */
export async function factEvidence(source: Source, boardId: string): Promise<FactEvidence[]> {
  const keys = sql.join(
    boardFactKeys.map((key) => sql`(${key})`),
    sql`, `,
  )
  const found = await source.execute(
    sql`select k.key, f.value, f.step, f.at, u.number from (values ${keys}) as k(key) cross join lateral
        (select value, step, at, unit_id from board_fact where board_id = ${boardId} and key = k.key and struck_at is null
         order by at desc limit ${mostEvidence}) f left join unit u on u.id = f.unit_id`,
  )
  type Row = { key: BoardFactKey; value: unknown; step: string | null; at: string | Date; number: number | null }
  return (found.rows as unknown as Row[]).map((r) => ({
    key: r.key,
    value: r.value,
    unitNumber: r.number,
    step: r.step,
    at: new Date(r.at).toISOString(),
  }))
}
