import { triedOf } from '@fresh-coat/core/flash/tried'
import { type BoardFactKey, type BoardFacts, boardFactKeys, readBoardFact } from '@fresh-coat/core/unit/board'
import type { BoardKnowledge } from '@fresh-coat/core/unit/view'
import { type SQL, sql } from 'drizzle-orm'
import { attemptView, byAction, type JsonAttempt, type Written } from '../attempts/reads'
import { type BoardRow, boardName } from './reads'

/**
 * Everything units of a board taught about it, as one JSON value: the facts one by one from the index, counts, and the
 * last hundred attempts. Part of the query that loads a unit, and a query of its own for the board's page.
 */

const mostAttempts = 100
const mostNumbers = 40
const mostMinutes = 12

export interface BoardBundle {
  facts: { key: BoardFactKey; value: unknown }[] | null
  attempts: (JsonAttempt & { number: number })[] | null
  causes: { cause: string; n: number }[] | null
  families: { family: string; n: number }[] | null
  rails: { unit: number; ohms: number }[] | null
  minutes: { unit: number; minutes: number }[] | null
  numbers: number[] | null
  count: number
  photographed: boolean
}

const factKeys = sql.raw(boardFactKeys.map((key) => `('${key}')`).join(', '))

/** Files that attempts put on a chip: what is known of each, also of one that was put aside. */
export const writtenSql = (attempts: SQL): SQL => sql`
  (select json_agg(json_build_object('sha256', w.sha256, 'release', w.release, 'options', w.build -> 'options', 'table', json_build_object(
      'kind', w.inspection -> 'kind', 'partitions', w.inspection -> 'partitions', 'findings', w.inspection -> 'findings')))
   from (select distinct on (f.sha256) f.sha256, f.release, f.build, f.inspection from file f
     where f.kind = 'image' and f.sha256 in (select a.data ->> 'sha256' from ${attempts} a where a.data ->> 'sha256' <> '')) w)`

export const attemptJson = sql`json_build_object('id', a.id, 'at', a.at, 'data', a.data, 'struck', a.struck_at is not null)`

/** The newest value of every fact of a board: one look into the index per fact, however many units taught it. */
export const factsSql = (board: SQL): SQL => sql`
  (select json_agg(json_build_object('key', k.key, 'value', f.value)) from (values ${factKeys}) k(key)
   cross join lateral (select value from board_fact where board_id = ${board} and key = k.key and struck_at is null
     order by at desc limit 1) f)`

/** @param board expression for the board's id  @param unit the unit that looks at it: its own photos are its own */
export function boardBundleSql(board: SQL, unit: SQL, counted: SQL = sql`true`): SQL {
  const attempts = sql`(select * from attempt where board_id = ${board} and struck_at is null order by at desc limit ${sql.raw(String(mostAttempts))})`
  return sql`json_build_object(
    'facts', ${factsSql(board)},
    'attempts', case when ${counted} then (select json_agg(json_build_object('id', a.id, 'at', a.at, 'data', a.data, 'number', au.number)
      order by a.at desc) from ${attempts} a join unit au on au.id = a.unit_id) end,
    'causes', (select json_agg(c) from (select cause, count(*)::int as n from trouble
      where board_id = ${board} and cause is not null and struck_at is null group by cause) c),
    'families', (select json_agg(c) from (select established as family, count(*)::int as n from unit_state
      where board_id = ${board} and established is not null group by established) c),
    'minutes', (select json_agg(m) from (select number as unit, open_minutes as minutes from unit_state
      where board_id = ${board} and open_minutes is not null order by number desc limit ${sql.raw(String(mostMinutes))}) m),
    'rails', (select json_agg(r) from (select distinct on (u.number) u.number as unit, (f.value #>> '{}')::double precision as ohms
      from board_fact f join unit u on u.id = f.unit_id and u.struck_at is null
      where f.board_id = ${board} and f.key = 'railOhms' and f.struck_at is null and jsonb_typeof(f.value) = 'number'
      order by u.number desc, f.at desc limit ${sql.raw(String(mostNumbers))}) r),
    'numbers', (select json_agg(n.number) from (select number from unit
      where board_id = ${board} and struck_at is null order by number limit ${sql.raw(String(mostNumbers))}) n),
    'count', (select count(*)::int from unit where board_id = ${board} and struck_at is null),
    'photographed', exists (select 1 from unit pu join file pf on pf.unit_id = pu.id and pf.kind = 'photo'
      where pu.board_id = ${board} and pu.id is distinct from ${unit} and pu.struck_at is null
      and pf.aside_at is null and pf.struck_at is null))`
}

export function factsOf(rows: BoardBundle['facts']): BoardFacts {
  const facts = Object.fromEntries(boardFactKeys.map((key) => [key, null])) as unknown as BoardFacts
  for (const { key, value } of rows ?? []) Object.assign(facts, { [key]: readBoardFact(key, value) })
  return facts
}

/** Attempts on a board, counted: of the reads, and of the writes. */
function triedOn(all: NonNullable<BoardBundle['attempts']>): BoardKnowledge['tried'] {
  const { attempts, reads } = byAction(all.map((a) => attemptView(a, a.number, noFiles)))
  return { reads: triedOf(reads), writes: triedOf(attempts) }
}

/** Which table a file held matters on the chip that it was written to, not for the rates of a board. */
const noFiles: Written = new Map()

export function boardOf(row: BoardRow, bundle: BoardBundle): BoardKnowledge {
  const facts = factsOf(bundle.facts)
  return {
    id: row.id,
    name: boardName(row),
    maker: row.maker,
    product: row.product,
    revision: row.revision,
    mains: row.mains,
    fixedWiring: row.fixedWiring,
    hasMeter: row.hasMeter,
    inPackageFlash: row.inPackageFlash,
    ...facts,
    provenModes: facts.provenModes ?? [],
    rails: bundle.rails ?? [],
    openMinutes: (bundle.minutes ?? []).reverse(),
    photographed: bundle.photographed,
    tried: bundle.attempts && triedOn(bundle.attempts),
    causes: Object.fromEntries((bundle.causes ?? []).map((c) => [c.cause, c.n])),
    markings: Object.fromEntries((bundle.families ?? []).map((f) => [f.family, f.n])),
    unitNumbers: bundle.numbers ?? [],
    unitCount: bundle.count,
  }
}
