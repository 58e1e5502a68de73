import { isCoatId } from '@fresh-coat/core/unit/way'
import { type UnitFilter, unitSorts } from './lists'

export type Query = { readonly [key: string]: string | string[] | undefined }
const one = (value: string | string[] | undefined): string => (typeof value === 'string' ? value : '')

/** The filter and order of the list of units as they stand in an address; what is not understood is left out. */
export function unitFilterOf(query: Query): UnitFilter {
  const coat = one(query.coat)
  const sort = unitSorts.find((s) => s === one(query.sort))
  return {
    ...(isCoatId(coat) || coat === 'ended' ? { coat } : {}),
    ...(/^[0-9a-f-]{36}$/.test(one(query.board)) ? { board: one(query.board) } : {}),
    ...(one(query.place) ? { place: one(query.place).slice(0, 120) } : {}),
    ...(one(query.waits) ? { waits: true } : {}),
    ...(one(query.q) ? { text: one(query.q).slice(0, 100) } : {}),
    ...(sort ? { sort } : {}),
  }
}

/** How many rows come with the page: what a large screen shows. */
export const rowsAtFirst = 40
/** How many go over the line at once while one scrolls. */
export const rowsAtOnce = 100
