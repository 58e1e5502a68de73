import { type LotBoard, lotKey } from '@fresh-coat/core/steps/arrive/lot'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'

const mostBoards = 12

/** The boards of other units of a lot, from the same seller where both are known. Empty without a lot. */
export async function boardsOfLot(
  source: Source,
  lot: string,
  seller: string,
  butNumber: number | null,
): Promise<LotBoard[]> {
  if (lotKey(lot) === '') return []
  const { rows } = await source.execute<LotBoard & Record<string, unknown>>(sql`
    select b.id as "boardId", concat_ws(' ', b.maker, b.product, nullif(b.revision, '')) as name, count(*)::int as units
    from step_record r join unit u on u.id = r.unit_id and u.struck_at is null
    join board b on b.id = u.board_id and b.struck_at is null
    where r.step = 'arrive' and r.struck_at is null and coalesce(r.data ->> 'lot', '') <> ''
      and lower(btrim(r.data ->> 'lot')) = ${lotKey(lot)}
      and u.number is distinct from ${butNumber}::int
      and (${lotKey(seller)} = '' or coalesce(lower(btrim(r.data ->> 'seller')), '') in ('', ${lotKey(seller)}))
    group by b.id order by units desc, name limit ${mostBoards}`)
  return rows
}
