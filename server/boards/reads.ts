import { type BoardFactKey, boardFactKeys } from '@fresh-coat/core/unit/board'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { localDay } from '../db/day'
import type * as schema from '../db/schema'

export type BoardRow = typeof schema.board.$inferSelect

export const boardName = (b: Pick<BoardRow, 'maker' | 'product' | 'revision'>): string =>
  [b.maker, b.product, b.revision].filter(Boolean).join(' ')

export interface FactEvidence {
  key: BoardFactKey
  value: unknown
  unitNumber: number | null
  step: string | null
  at: string
  /** The day of it on the workshop's calendar. */
  day: string
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
    day: localDay(new Date(r.at)),
  }))
}
