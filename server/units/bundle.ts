import type { OnlyOnes } from '@fresh-coat/core/unit/rules'
import type { HubTest, UnitFile, UnitView } from '@fresh-coat/core/unit/view'
import { and, eq, isNull, type SQL, sql } from 'drizzle-orm'
import { PgDialect } from 'drizzle-orm/pg-core'
import type { JsonAttempt, JsonTrouble, WrittenFile } from '../attempts/reads'
import { attemptJson, type BoardBundle, boardBundleSql, writtenSql } from '../boards/bundle'
import type { BoardRow } from '../boards/reads'
import { putOnce, type Source } from '../db/client'
import * as schema from '../db/schema'
import type { JsonCalibration } from '../meters/reads'
import type { JsonWords } from '../words/reads'

/**
 * Everything that is stored of one unit, in one query: a page or a command asks the database once, and the plan is kept
 * by the connection. Every part is found by an index and bounded, however many units there are.
 */

export type UnitRow = typeof schema.unit.$inferSelect

export interface JsonFile extends Omit<UnitFile, 'createdAt'> {
  createdAt: string
}

export interface UnitBundle {
  records: { step: string; shape: number; data: unknown; done: unknown; version: number; updatedAt: string }[] | null
  series: { step: string; series: string; key: string; position: number; data: unknown }[] | null
  texts: { step: string; field: string; sha256: string; base64: string | null }[] | null
  gates: UnitView['gates'] | null
  confirmed: UnitView['confirmed'] | null
  files: JsonFile[] | null
  image: JsonFile | null
  attempts: JsonAttempt[] | null
  written: WrittenFile[] | null
  calibrations: JsonCalibration[] | null
  hubTests: HubTest[] | null
  troubles: JsonTrouble[] | null
  words: JsonWords[] | null
  /** Those that the record may mean: its own, and what is filled in before the first save. */
  adapters: { id: string; name: string; version: number; data: unknown }[] | null
  /** The module that the record or the board names. */
  module: { id: string; name: string; version: number; data: unknown } | null
  sharers: number[] | null
  site: unknown
  prior: unknown
  offsets: unknown
  only: OnlyOnes
  board: BoardBundle | null
}

export interface Bundled {
  unit: UnitRow
  board: BoardRow | null
  bundle: UnitBundle
}

const limits = { attempts: 200, files: 200, calibrations: 50, tests: 100, troubles: 50, words: 5, sharers: 4 }
const limit = (n: number) => sql.raw(`limit ${n}`)
const id = sql`"unit"."id"`

/** Of a dump, the map of its sectors is many times the rest: only Back up draws it. */
const fileJson = (maps: SQL) => sql`json_build_object('id', f.id, 'kind', f.kind, 'name', f.name, 'sha256', f.sha256,
  'bytes', b.bytes, 'held', b.held, 'read', f.read, 'tag', f.tag, 'createdAt', f.created_at, 'sourceId', f.source_id,
  'version', f.version, 'build', f.build, 'origin', f.origin, 'firmware', f.firmware, 'release', f.release,
  'inspection', case when f.kind = 'dump' and not ${maps} then f.inspection - 'runs' else f.inspection end)`

/** A field of the record of a step, as it is stored in its document. */
const field = (step: string, name: string) =>
  sql.raw(
    `(select r.data ->> '${name}' from step_record r where r.unit_id = "unit"."id" and r.step = '${step}' and r.struck_at is null)`,
  )
/** The same as an id: what somebody made of it by hand finds nothing, and breaks nothing. */
const idField = (step: string, name: string) =>
  sql`(case when ${field(step, name)} ~ '^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$' then ${field(step, name)}::uuid end)`
const setting = (key: string) =>
  sql.raw(`(select s.value from setting s where s.key = '${key}' and s.struck_at is null)`)

/** The id of the one there is of something; null where there are none or several. */
const onlyId = (table: 'hub' | 'kit', kind?: string) =>
  sql.raw(
    `(select case when count(*) = 1 then min(o.id::text) end from (select id from ${table} where struck_at is null${kind ? ` and kind = '${kind}'` : ''} limit 2) o)`,
  )

const attempts = sql`(select * from attempt where unit_id = ${id} order by at desc ${limit(limits.attempts)})`

const bundleSql = (maps: SQL, counted: SQL): SQL<UnitBundle> => sql<UnitBundle>`json_build_object(
  'records', (select json_agg(json_build_object('step', r.step, 'shape', r.shape, 'data', r.data, 'done', r.done,
      'version', r.version, 'updatedAt', r.updated_at)) from step_record r where r.unit_id = ${id} and r.struck_at is null),
  'series', (select json_agg(json_build_object('step', s.step, 'series', s.series, 'key', s.key, 'position', s.position,
      'data', s.data)) from step_series s where s.unit_id = ${id} and s.struck_at is null),
  'texts', (select json_agg(json_build_object('step', t.step, 'field', t.field, 'sha256', t.sha256, 'base64',
      (select encode(string_agg(c.data, '' order by c.seq), 'base64') from blob_chunk c where c.sha256 = t.sha256)))
      from step_text t where t.unit_id = ${id} and t.struck_at is null),
  'gates', (select json_agg(json_build_object('gate', g.gate, 'day', g.day, 'at', g.at, 'by', g.by, 'measured', g.measured))
      from gate g where g.unit_id = ${id} and g.cleared_at is null and g.struck_at is null),
  'confirmed', (select json_agg(json_build_object('gate', g.gate, 'at', g.at)) from (select distinct on (gate) gate, at from gate
      where unit_id = ${id} and struck_at is null and (cleared_at is null or cleared_by in ('attempt', 'opposite'))
      order by gate, at desc) g),
  'files', (select json_agg(f.one order by f.created_at desc) from (select ${fileJson(maps)} as one, f.created_at from file f
      join blob b on b.sha256 = f.sha256 where f.unit_id = ${id} and f.aside_at is null and f.struck_at is null
      order by f.created_at desc ${limit(limits.files)}) f),
  'image', (select ${fileJson(maps)} from file f join blob b on b.sha256 = f.sha256
      where f.id = ${idField('check', 'fileId')} and f.struck_at is null),
  'attempts', (select json_agg(${attemptJson} order by a.at desc) from ${attempts} a),
  'written', ${writtenSql(attempts)},
  'calibrations', (select json_agg(json_build_object('id', c.id, 'at', c.at, 'input', case
      when c.result ->> 'model' = 'gainOffset' then c.input::json else json_build_object('quantity', c.input -> 'quantity') end,
      'points', c.input -> 'points', 'zeros', c.input -> 'zeroReadings', 'result', c.result, 'firmware', c.firmware) order by c.at desc) from (select * from calibration where unit_id = ${id}
      and struck_at is null order by at desc ${limit(limits.calibrations)}) c),
  'hubTests', (select json_agg(json_build_object('id', h.id, 'at', h.at, 'by', h.by, 'hub', coalesce(hub.name, ''),
      'direction', h.direction, 'channel', h.channel, 'ok', h.ok, 'seen', h.seen, 'basis', h.basis) order by h.at desc) from (select * from hub_test
      where unit_id = ${id} and struck_at is null order by at desc ${limit(limits.tests)}) h left join hub on hub.id = h.hub_id),
  'troubles', (select json_agg(json_build_object('id', t.id, 'step', t.step, 'symptom', t.symptom, 'answers', t.answers,
      'cause', t.cause, 'note', t.note, 'openedAt', t.opened_at, 'closedAt', t.closed_at, 'attemptId', t.attempt_id,
      'version', t.version) order by t.opened_at desc) from (select * from trouble where unit_id = ${id}
      and struck_at is null order by opened_at desc ${limit(limits.troubles)}) t),
  'words', (select json_agg(json_build_object('id', w.id, 'step', w.step, 'tool', w.tool, 'system', w.system, 'reading', w.reading,
      'taken', w.taken, 'by', w.by, 'at', w.at) order by w.at desc) from (select * from tool_words where unit_id = ${id}
      and struck_at is null order by at desc ${limit(limits.words)}) w),
  'adapters', (select json_agg(json_build_object('id', k.id, 'name', k.name, 'version', k.version, 'data', k.data)) from kit k
      where k.id::text in (${field('wire', 'adapterId')}, (select f.value #>> '{}' from board_fact f where f.board_id = "board"."id"
        and f.key = 'adapterId' and f.struck_at is null order by f.at desc limit 1), ${onlyId('kit', 'adapter')})
      and k.kind = 'adapter' and k.struck_at is null),
  'module', (select json_build_object('id', k.id, 'name', k.name, 'version', k.version, 'data', k.data) from kit k
      where k.id::text = coalesce(${field('pads', 'moduleId')}, (select f.value ->> 'moduleId' from board_fact f
        where f.board_id = "board"."id" and f.key = 'pads' and f.struck_at is null order by f.at desc limit 1))
      and k.kind = 'module' and k.struck_at is null),
  'sharers', (select json_agg(o.number) from (select u2.number from unit u2 where u2.own_slug = "unit"."own_slug"
      and u2.id <> ${id} and u2.struck_at is null and "unit"."slug" <> "unit"."own_slug"
      order by u2.number ${limit(limits.sharers)}) o),
  'site', ${setting('site')},
  'prior', ${setting('prior')},
  'offsets', (select p.data -> 'startOffsets' from profile p where p.name = ${field('check', 'firmware')} and p.struck_at is null limit 1),
  'only', json_build_object('hubId', ${onlyId('hub')}, 'instrumentId', ${onlyId(`kit`, 'instrument')}, 'adapterId', ${onlyId('kit', 'adapter')}),
  'board', case when "board"."id" is null then null else ${boardBundleSql(sql`"board"."id"`, id, counted)} end)`

/** What of a unit is many times the rest, and of use in few places. */
export interface Wanted {
  /** The sector maps of dumps. */
  maps: boolean
  /** How attempts on its board went. */
  counted: boolean
}
/** What whoever judges a unit goes by. */
const judging: Wanted = { maps: false, counted: true }
/** What its standing follows from: how attempts on its board went is of no account for where it stands itself. */
export const standing: Wanted = { maps: false, counted: false }

/** The query is put into words once: that takes longer than answering it. */
const inWords = ({ maps, counted }: Wanted): SQL<UnitBundle> =>
  sql.raw(new PgDialect().sqlToQuery(bundleSql(sql.raw(String(maps)), sql.raw(String(counted)))).sql) as SQL<UnitBundle>
const worded = new Map<string, SQL<UnitBundle>>()
const nameOf = ({ maps, counted }: Wanted) => `${maps ? '_maps' : ''}${counted ? '_counted' : ''}`

function withBundle(source: Source, wanted: Wanted, where: SQL) {
  const name = nameOf(wanted)
  const bundle = worded.get(name) ?? inWords(wanted)
  worded.set(name, bundle)
  return source
    .select({ unit: schema.unit, board: schema.board, bundle })
    .from(schema.unit)
    .leftJoin(schema.board, and(eq(schema.unit.boardId, schema.board.id), isNull(schema.board.struckAt)))
    .where(and(where, isNull(schema.unit.struckAt)))
}

export async function bundleById(source: Source, unitId: string, wanted = judging): Promise<Bundled | null> {
  const name = `unit_by_id${nameOf(wanted)}`
  const query = putOnce(source, name, () =>
    withBundle(source, wanted, eq(schema.unit.id, sql`${sql.placeholder('id')}::uuid`)).prepare(name),
  )
  const [found] = await query.execute({ id: unitId })
  return (found as Bundled | undefined) ?? null
}

export async function bundleByNumber(source: Source, number: number, wanted = judging): Promise<Bundled | null> {
  if (!Number.isInteger(number) || number < 1 || number >= 2 ** 31) return null
  const name = `unit_by_number${nameOf(wanted)}`
  const query = putOnce(source, name, () =>
    withBundle(source, wanted, eq(schema.unit.number, sql`${sql.placeholder('number')}::int`)).prepare(name),
  )
  const [found] = await query.execute({ number })
  return (found as Bundled | undefined) ?? null
}

/** Of the one that is in hand. */
export async function bundleInHand(source: Source, wanted = judging): Promise<Bundled | null> {
  const name = `unit_in_hand${nameOf(wanted)}`
  // Not as a value: which index serves would be looked for anew each time, and that takes four times as long as the answer.
  const query = putOnce(source, name, () => withBundle(source, wanted, sql`${schema.unit.inHand}`).prepare(name))
  const [found] = await query.execute()
  return (found as Bundled | undefined) ?? null
}
