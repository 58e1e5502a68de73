import { painted } from '@fresh-coat/core/unit/coats'
import { coats } from '@fresh-coat/core/unit/way'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { type LogLine, type LogRow, logLines } from '../db/log'
import { together } from '../db/together'
import type { ListedUnit } from './lists'
import { eventJson } from './page-bundle'

export interface BenchUnit extends ListedUnit {
  inHand: boolean
  dueWhat: string
}

/** The bench in two queries: what is in hand, the first units of every coat, what waits, what falls due, what happened. */
export interface BenchPage {
  /** Is there no unit yet? */
  empty: boolean
  inHand: BenchUnit | null
  /** Units at work, and those in service that something came back to: the furthest on of every coat. */
  rack: BenchUnit[]
  atWork: number
  inService: number
  /** In service, and something waits on them again. */
  wetAgain: number
  waiting: BenchUnit[]
  waitingCount: number
  due: BenchUnit[]
  log: LogLine[]
}

type Counts = Pick<BenchPage, 'atWork' | 'inService' | 'wetAgain' | 'waitingCount'>

const perLane = 14
const mostWaiting = 20
const logLength = 12
const limit = (n: number) => sql.raw(`limit ${n}`)

const listedJson = sql`json_build_object('id', u.id, 'number', u.number, 'name', u.name, 'place', u.place,
  'next', s.next, 'lane', s.lane, 'inService', s.in_service, 'inHand', u.in_hand, 'coats', s.coats,
  'waiting', s.waiting, 'due', s.due, 'dueWhat', s.due_what, 'family', s.family, 'firmware', s.firmware,
  'board', coalesce((select concat_ws(' ', b.maker, b.product, nullif(b.revision, '')) from board b where b.id = u.board_id), ''))`
const joined = sql`unit_state s join unit u on u.id = s.unit_id`
const coatIds = sql.raw(coats.map((c) => `('${c.id}')`).join(', '))

// Without a value in it: with one, all of it would be planned anew each time.
const benchSql = sql`select json_build_object(
  'empty', not exists (select 1 from unit where struck_at is null),
  'inHand', (select ${listedJson} from unit u join unit_state s on s.unit_id = u.id where u.in_hand and u.struck_at is null limit 1),
  'lanes', (select json_agg((select coalesce(json_agg(x.one), '[]') from (select ${listedJson} as one from ${joined}
        where s.lane = l.coat and (not s.in_service or s.wait_rank is not null)
        order by s.in_service, s.number ${limit(perLane)}) x)) from (values ${coatIds}) l(coat)),
  'counts', (select json_build_object(
      'atWork', count(*) filter (where not in_service and lane <> 'ended'),
      'inService', count(*) filter (where in_service),
      'wetAgain', count(*) filter (where in_service and wait_rank is not null),
      'waitingCount', count(*) filter (where wait_rank is not null)) from unit_state),
  'waiting', (select coalesce(json_agg(x.one), '[]') from (select ${listedJson} as one from ${joined} where s.wait_rank is not null
      order by s.wait_rank, s.number ${limit(mostWaiting)}) x),
  'log', (select json_agg(${eventJson} order by e.id desc) from (select e.*, u.number from event e
      left join unit u on u.id = e.unit_id order by e.id desc ${limit(logLength * 3)}) e)) as bench`

const dueSql = (today: string, soon: string) => sql`select ${listedJson} as one from ${joined}
  where s.due >= ${today}::date and s.due <= ${soon}::date order by s.due ${limit(mostWaiting)}`

type Found = Omit<BenchPage, 'log' | 'rack' | 'due' | keyof Counts> & {
  counts: Counts
  log: LogRow[] | null
  lanes: BenchUnit[][]
}

export async function benchPage(source: Source, today: string, soon: string): Promise<BenchPage> {
  const found = await together({
    bench: source.execute<{ bench: Found }>(benchSql),
    due: source.execute<{ one: BenchUnit }>(dueSql(today, soon)),
  })
  const [row] = found.bench.rows
  if (!row) throw new Error('the bench query gave nothing')
  const { counts, lanes, log, ...rest } = row.bench
  const rack = (lanes ?? []).flat().sort((a, b) => painted(b.coats) - painted(a.coats) || a.number - b.number)
  const due = found.due.rows.map((r) => r.one)
  return { ...rest, ...counts, due, rack, log: logLines(log ?? [], logLength) }
}
