import type { SomeUnits } from '@fresh-coat/core/edge/some'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import type { Calibration } from '@fresh-coat/core/unit/view'
import { type CoatId, type StepId, stepIds } from '@fresh-coat/core/unit/way'
import { and, asc, desc, eq, gt, ilike, isNotNull, isNull, type SQL, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'
import { together } from '../db/together'

/** Lists of units, a page at a time, from what was worked out when each of them changed. */

const { unit, unitState: state, board } = schema

export interface ListedUnit {
  id: string
  number: number
  name: string
  place: string
  board: string
  next: StepId
  lane: CoatId | 'ended'
  inService: boolean
  coats: Assessment['coats']
  waiting: Assessment['waiting']
  due: string | null
  family: string | null
  firmware: string
}

const listed = {
  id: unit.id,
  number: unit.number,
  name: unit.name,
  place: unit.place,
  board: sql<string>`coalesce(concat_ws(' ', ${board.maker}, ${board.product}, nullif(${board.revision}, '')), '')`,
  next: state.next,
  lane: state.lane,
  inService: state.inService,
  coats: state.coats,
  waiting: state.waiting,
  due: state.due,
  family: state.family,
  firmware: state.firmware,
}

const unitCount = (source: Source): Promise<number> => source.$count(unit, isNull(unit.struckAt))

export interface UnitFilter {
  coat?: CoatId | 'ended'
  board?: string
  place?: string
  waits?: boolean
  text?: string
  sort?: UnitSort
}

export const unitSorts = ['number', 'name', 'place', 'board', 'progress', 'due'] as const
export type UnitSort = (typeof unitSorts)[number]

/** How many steps are painted, by what was worked out of the coats. */
const paintedSteps = sql`(select sum((c ->> 'done')::int) from jsonb_array_elements(${state.coats}) c)`

const orders: Record<UnitSort, SQL> = {
  number: asc(state.number),
  name: asc(sql`lower(${unit.name})`),
  place: sql`${unit.place} = '', lower(${unit.place})`,
  board: sql`${board.maker}, ${board.product}, ${board.revision}`,
  progress: sql`${paintedSteps} desc`,
  due: sql`${state.due} nulls last`,
}

export const likeText = (text: string): string => `%${text.toLowerCase().replace(/[%_\\]/g, '\\$&')}%`

function filterOf({ coat, board: boardId, place, waits, text }: UnitFilter): SQL[] {
  return [
    ...(coat ? [eq(state.lane, coat)] : []),
    ...(boardId ? [eq(state.boardId, boardId)] : []),
    ...(place ? [eq(unit.place, place)] : []),
    ...(waits ? [isNotNull(state.waitRank)] : []),
    ...(text ? [ilike(state.search, likeText(text))] : []),
  ]
}

/** Rows of the list of units in its order, from one place on. @param skip how many stand before */
export async function unitRows(source: Source, filter: UnitFilter, skip: number, limit: number): Promise<ListedUnit[]> {
  const rows = await source
    .select(listed)
    .from(state)
    .innerJoin(unit, eq(unit.id, state.unitId))
    .leftJoin(board, eq(board.id, unit.boardId))
    .where(and(...filterOf(filter)))
    .orderBy(orders[filter.sort ?? 'number'], asc(state.number))
    .offset(skip)
    .limit(limit)
  return rows as ListedUnit[]
}

/** How many units there are, and how many rows the list has. */
export async function unitCounts(source: Source, filter: UnitFilter): Promise<{ all: number; found: number }> {
  const narrowed = filterOf(filter).length > 0
  const { all, found } = await together({
    all: unitCount(source),
    found: narrowed ? filteredCount(source, filter) : null,
  })
  return { all, found: found ?? all }
}

async function filteredCount(source: Source, filter: UnitFilter): Promise<number> {
  const [row] = await source
    .select({ n: sql<number>`count(*)::int` })
    .from(state)
    .innerJoin(unit, eq(unit.id, state.unitId))
    .where(and(...filterOf(filter)))
  return row?.n ?? 0
}

const mostPlaces = 100

export async function places(source: Source): Promise<string[]> {
  // One look into the index per place, however many units each has.
  const found = await source.execute(sql`
    with recursive p as (
      (select place from unit where place > '' order by place limit 1)
      union all
      select (select place from unit where place > p.place order by place limit 1) from p where p.place is not null
    ) select place from p where place is not null limit ${mostPlaces}`)
  return (found.rows as { place: string }[]).map((r) => r.place)
}

/** The next free case number: one more than the highest. */
export async function freeNumber(source: Source): Promise<number> {
  const [row] = await source
    .select({ number: unit.number })
    .from(unit)
    .where(isNull(unit.struckAt))
    .orderBy(desc(unit.number))
    .limit(1)
  return (row?.number ?? 0) + 1
}

const steps: ReadonlySet<string> = new Set(stepIds)

/** The step that a unit goes on with. */
export async function nextStepOf(source: Source, number: number): Promise<StepId | null> {
  const [row] = await source.select({ next: state.next }).from(state).where(eq(state.number, number)).limit(1)
  return row && steps.has(row.next) ? (row.next as StepId) : null
}

/** Of each of these images the units that chose it at Check, the first by their numbers; an image that none chose has none. */
export async function usersOfImages(
  source: Source,
  ids: readonly string[],
  perImage = 12,
  many = 600,
): Promise<Map<string, SomeUnits>> {
  // Of one that most units chose the first are found soon by going through them in order; to sort thousands takes longer than all else.
  const found = await source.execute(
    sql`select id, "all", case when "all" > ${many}
          then array(select number from unit_state where image_id = id order by number limit ${perImage})
          else (select (array_agg(number order by number))[1:${perImage}::int] from unit_state where image_id = id) end as numbers
        from (select image_id as id, count(*)::int as "all" from unit_state
              where image_id = any(${sql.param([...ids])}::uuid[]) group by 1) chosen`,
  )
  type Row = SomeUnits & { id: string }
  return new Map((found.rows as unknown as Row[]).map(({ id, all, numbers }) => [id, { all, numbers }]))
}

export const metersAPage = 50

export interface MeteredRow {
  id: string
  number: number
  name: string
  calibration: Calibration | null
}

/**
 * Units with a meter, the next due first; those that were never calibrated last. One more than a page has, so that it is known whether
 * another one follows.
 * @param skip how many were on the pages before
 */
export async function meteredUnits(source: Source, skip = 0): Promise<MeteredRow[]> {
  const rows = await source
    .select({ id: unit.id, number: state.number, name: unit.name, calibration: state.calibration })
    .from(state)
    .innerJoin(unit, eq(unit.id, state.unitId))
    .where(eq(state.metering, true))
    .orderBy(sql`${state.calibration} ->> 'due'`, asc(state.number))
    .limit(metersAPage + 1)
    .offset(skip)
  return rows as MeteredRow[]
}

export interface StockRow {
  number: number
  name: string
  backup: string
}
export const stockAPage = 30
const wasRead = sql`${state.backup} not in ('none', 'skipped')`

/** A page of units whose stock firmware was read. */
export async function stockPage(source: Source, after: number): Promise<(StockRow & { id: string })[]> {
  return source
    .select({ id: unit.id, number: unit.number, name: unit.name, backup: state.backup })
    .from(state)
    .innerJoin(unit, eq(unit.id, state.unitId))
    .where(and(gt(state.number, after), wasRead))
    .orderBy(asc(state.number))
    .limit(stockAPage)
}
export const stockCount = (source: Source): Promise<number> => source.$count(state, wasRead)
