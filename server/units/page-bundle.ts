import { sql } from 'drizzle-orm'
import { PgDialect } from 'drizzle-orm/pg-core'
import { putOnce, type Source } from '../db/client'
import * as schema from '../db/schema'
import { unit } from './schema'

/** What stands around a unit on its page, in one query: kit, firmware, pace, secrets, the log, its neighbours, the next number. */
export interface PageBundle {
  kit: { id: string; kind: string; name: string; version: number; data: unknown }[] | null
  profiles: { id: string; name: string; version: number; data: unknown }[] | null
  pace: { number: number; begun: string; minutes: number; done: boolean }[] | null
  secrets: { id: string; name: string; keptIn: string; createdAt: string }[] | null
  log: JsonEvent[] | null
  before: number | null
  after: number | null
  highest: number
  alike: string[] | null
}

export interface JsonEvent {
  id: number
  at: string
  kind: string
  step: string | null
  sentence: string
  undone: boolean
  unitId: string | null
  number: number | null
}

const limits = { pace: 24, events: 21, alike: 500 }
const limit = (n: number) => sql.raw(`limit ${n}`)

export const eventJson = sql`json_build_object('id', e.id, 'at', e.until, 'kind', e.kind, 'step', e.step,
  'sentence', e.sentence, 'undone', e.undone_at is not null, 'unitId', e.unit_id, 'number', e.number)`

const pageSql = sql<PageBundle>`json_build_object(
  'kit', (select json_agg(json_build_object('id', k.id, 'kind', k.kind, 'name', k.name, 'version', k.version, 'data', k.data)
      order by k.name) from kit k where k.struck_at is null),
  'profiles', (select json_agg(json_build_object('id', p.id, 'name', p.name, 'version', p.version, 'data', p.data)
      order by p.name) from profile p where p.struck_at is null),
  'pace', (select json_agg(json_build_object('number', p.number, 'begun', p.begun_at, 'minutes', p.minutes, 'done', p.proven))
      from (select u.number, p.begun_at, p.minutes, p.proven from unit_pace p join unit u on u.id = p.unit_id
        where p.board_id = "unit"."board_id" and u.struck_at is null order by p.begun_at desc ${limit(limits.pace)}) p),
  'secrets', (select json_agg(json_build_object('id', s.id, 'name', s.name, 'keptIn', s.kept_in, 'createdAt', s.created_at)
      order by s.created_at) from secret s where s.unit_id = "unit"."id" and s.struck_at is null),
  'log', (select json_agg(${eventJson} order by e.id desc) from (select e.*, null::int as number from event e
      where e.unit_id = "unit"."id" order by e.id desc ${limit(limits.events)}) e),
  'before', (select max(number) from unit b where b.number < "unit"."number" and b.struck_at is null),
  'after', (select min(number) from unit b where b.number > "unit"."number" and b.struck_at is null),
  'highest', (select max(number) from unit b where b.struck_at is null),
  'alike', (select json_agg(b.name) from (select name from unit b where b.board_id = "unit"."board_id"
      and b.struck_at is null order by b.number desc ${limit(limits.alike)}) b))`

/** Put into words once. */
const inWords = sql.raw(new PgDialect().sqlToQuery(pageSql).sql)

export async function pageBundle(source: Source, number: number): Promise<PageBundle | null> {
  const name = 'unit_page'
  const query = putOnce(source, name, () =>
    source
      .select({ bundle: sql<PageBundle>`${inWords}` })
      .from(unit)
      .where(sql`${schema.unit.number} = ${sql.placeholder('number')}::int and ${schema.unit.struckAt} is null`)
      .prepare(name),
  )
  const [found] = await query.execute({ number })
  return found?.bundle ?? null
}
