import type { PhotoMark } from '@fresh-coat/core/steps/open/record'
import type { BoardFacts } from '@fresh-coat/core/unit/board'
import { readBoardFact } from '@fresh-coat/core/unit/board'
import type { BoardKnowledge, UnitFile } from '@fresh-coat/core/unit/view'
import type { BoardPadRow } from '@fresh-coat/core/wiring/serves'
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'
import { together } from '../db/together'
import { fileView } from '../files/reads'
import { loadUnit } from '../units/load'
import { type BoardBundle, boardBundleSql, boardOf, factsOf, factsSql } from './bundle'
import { type BoardRow, boardName, type FactEvidence, factEvidence } from './reads'

const { board, unit, unitState } = schema

export interface BoardChoice {
  id: string
  name: string
  units: number
}

const mostBoards = 300

/** Boards to choose from, with how many units each has. */
export async function boardChoices(source: Source): Promise<BoardChoice[]> {
  const rows = await source
    .select({
      id: board.id,
      maker: board.maker,
      product: board.product,
      revision: board.revision,
      units: sql<number>`(select count(*)::int from unit u where u.board_id = "board"."id" and u.struck_at is null)`,
    })
    .from(board)
    .where(isNull(board.struckAt))
    .orderBy(asc(board.maker), asc(board.product), asc(board.revision))
    .limit(mostBoards)
  return rows.map(({ id, units, ...named }) => ({ id, name: boardName(named), units }))
}

export interface ListedBoard extends BoardChoice, BoardFacts {
  maker: string
  product: string
  revision: string
  mains: boolean
  hasMeter: boolean
  numbers: number[]
  /** What it is sorted by: the next page begins after it. */
  sortName: string
}

export const boardsAPage = 18
const numbersShown = 12

interface JsonBoard {
  row: BoardRow
  sortName: string
  facts: BoardBundle['facts']
  numbers: number[] | null
  units: number
}

/** A page of boards with what is known of each, in one query. @param after name of the board the page begins after */
export async function boardPage(source: Source, after = ''): Promise<ListedBoard[]> {
  const name = sql`concat_ws(' ', b.maker, b.product, b.revision)`
  const found = await source.execute(sql`
    select json_build_object('row', json_build_object('id', b.id, 'maker', b.maker, 'product', b.product,
        'revision', b.revision, 'mains', b.mains, 'hasMeter', b.has_meter), 'sortName', ${name},
      'facts', ${factsSql(sql`b.id`)},
      'numbers', (select json_agg(n.number) from (select number from unit u where u.board_id = b.id
        and u.struck_at is null order by number limit ${numbersShown}) n),
      'units', (select count(*)::int from unit u where u.board_id = b.id and u.struck_at is null)) as one
    from board b where b.struck_at is null and ${name} > ${after} order by ${name} limit ${boardsAPage}`)
  return (found.rows as { one: JsonBoard }[]).map(({ one }) => ({
    ...factsOf(one.facts),
    id: one.row.id,
    name: boardName(one.row),
    maker: one.row.maker,
    product: one.row.product,
    revision: one.row.revision,
    mains: one.row.mains,
    hasMeter: one.row.hasMeter,
    sortName: one.sortName,
    numbers: one.numbers ?? [],
    units: one.units,
  }))
}

export interface BoardDossier extends BoardKnowledge {
  version: number
  note: string
  facts: FactEvidence[]
  photos: UnitFile[]
  marks: PhotoMark[]
}

const mostPhotos = 24
const mostMarked = 6

async function photosOf(source: Source, boardId: string): Promise<UnitFile[]> {
  const { file, blob } = schema
  const rows = await source
    .select({ file, bytes: blob.bytes, held: blob.held })
    .from(file)
    .innerJoin(unit, eq(unit.id, file.unitId))
    .innerJoin(blob, eq(blob.sha256, file.sha256))
    .where(
      and(
        eq(unit.boardId, boardId),
        eq(file.kind, 'photo'),
        isNull(file.asideAt),
        isNull(file.struckAt),
        isNull(unit.struckAt),
      ),
    )
    .orderBy(desc(file.createdAt))
    .limit(mostPhotos)
  return rows.map((r) => fileView({ ...r.file, bytes: r.bytes, held: r.held }))
}

/** Marks on the photos of the last units that have any. */
async function marksOf(source: Source, boardId: string): Promise<PhotoMark[]> {
  const marked = await source
    .select({ id: unitState.unitId })
    .from(unitState)
    .where(and(eq(unitState.boardId, boardId), eq(unitState.hasMarks, true)))
    .orderBy(asc(unitState.number))
    .limit(mostMarked)
  const out: PhotoMark[] = []
  for (const { id } of marked) out.push(...((await loadUnit(source, id, new Date()))?.records.open.data.marks ?? []))
  return out
}

export async function boardDossier(source: Source, id: string): Promise<BoardDossier | null> {
  const bundle = sql<BoardBundle>`${boardBundleSql(sql`"board"."id"`, sql`null::uuid`)}`
  const [found] = await source
    .select({ row: board, bundle })
    .from(board)
    .where(and(eq(board.id, id), isNull(board.struckAt)))
  if (!found) return null
  const { row } = found
  const more = await together({
    facts: factEvidence(source, id),
    photos: photosOf(source, id),
    marks: marksOf(source, id),
  })
  return { ...boardOf(row, found.bundle), version: row.version, note: row.note, ...more }
}

const mostRows = 100

/** Boards with the row of pads their units taught, for the kit as a whole. */
export async function boardRows(source: Source): Promise<BoardPadRow[]> {
  const { rows } = await source.execute<{ id: string; name: string; value: unknown }>(sql`
    select b.id, concat_ws(' ', b.maker, b.product, nullif(b.revision, '')) as name, f.value
    from board b cross join lateral (select value from board_fact where board_id = b.id and key = 'pads'
      and struck_at is null order by at desc limit 1) f
    where b.struck_at is null order by name limit ${mostRows}`)
  return rows.flatMap(({ id, name, value }): BoardPadRow[] => {
    const pads = readBoardFact('pads', value)
    return pads ? [{ id, name, pads: pads.pads, pitchMm: pads.pitchMm, rows: pads.rows ?? 1 }] : []
  })
}

/** Names of the boards whose pads are the contacts of a module, by the module's id. */
export async function boardsByModule(source: Source): Promise<Record<string, string[]>> {
  const { rows } = await source.execute<{ name: string; module: string }>(sql`
    select concat_ws(' ', b.maker, b.product, nullif(b.revision, '')) as name, f.value ->> 'moduleId' as module
    from board b cross join lateral (select value from board_fact where board_id = b.id and key = 'pads'
      and struck_at is null order by at desc limit 1) f
    where b.struck_at is null and f.value ->> 'moduleId' is not null order by name limit ${mostRows}`)
  const byModule: Record<string, string[]> = {}
  for (const { name, module } of rows) byModule[module] = [...(byModule[module] ?? []), name]
  return byModule
}
