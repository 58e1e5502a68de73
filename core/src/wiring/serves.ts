import type { Adapter } from '../unit/view'
import { straightOf } from './jig'
import type { PadRole } from './wiring'

/** A board with the row of pads its units taught. */
export interface BoardPadRow {
  id: string
  name: string
  pads: readonly PadRole[]
  pitchMm: number | null
  rows: number
}

export interface Served {
  id: string
  name: string
  face: 'top' | 'bottom'
  /** Pins to bend away and insulate. */
  bend: number
}

export interface Serves {
  adapter: Pick<Adapter, 'id' | 'name'>
  boards: Served[]
  bends: number
}

const usualPitch = 2.54

type Way = Pick<Served, 'face' | 'bend'>
/** How an adapter plugs straight on to a row, with the fewest bent pins; null where it does not. */
function straightOn(adapter: Adapter, { pads, pitchMm }: BoardPadRow): Way | null {
  const ways = (['top', 'bottom'] as const).flatMap((face): Way[] => {
    const straight = straightOf({
      adapter: [...adapter.pins],
      pads: [...pads],
      pitchAdapter: usualPitch,
      pitchPads: pitchMm ?? usualPitch,
      padsSeenFrom: 'top',
      plugFace: face,
      labelledFrom: adapter.labelledFrom,
      power: 'adapter3v3',
    })
    return straight ? [{ face, bend: straight.bend.length }] : []
  })
  return ways.sort((a, b) => a.bend - b.bend)[0] ?? null
}

/** The same row has the same ways. */
const rowOf = ({ pads, pitchMm }: BoardPadRow): string => `${pads.join(' ')} ${pitchMm ?? usualPitch}`

const oneRow = (board: BoardPadRow): boolean => board.rows === 1 && board.pads.length > 0

/** Each adapter of the kit with the boards it plugs straight on to: most boards first, then fewest bends, then its name. */
export const servesMost = (adapters: readonly Adapter[], boards: readonly BoardPadRow[]): Serves[] =>
  adapters
    .map((adapter): Serves => {
      const ways = new Map<string, Way | null>()
      const served = boards.filter(oneRow).flatMap((board): Served[] => {
        const row = rowOf(board)
        const way = ways.has(row) ? ways.get(row) : straightOn(adapter, board)
        ways.set(row, way ?? null)
        return way ? [{ id: board.id, name: board.name, ...way }] : []
      })
      return {
        adapter: { id: adapter.id, name: adapter.name },
        boards: served,
        bends: served.reduce((n, b) => n + b.bend, 0),
      }
    })
    .sort(
      (a, b) => b.boards.length - a.boards.length || a.bends - b.bends || (a.adapter.name < b.adapter.name ? -1 : 1),
    )

/** Boards that share one jig: the same row, the same pitch. The largest group first; a board alone is none. */
export function sharedJigs(boards: readonly BoardPadRow[]): BoardPadRow[][] {
  const groups = new Map<string, BoardPadRow[]>()
  for (const board of boards.filter(oneRow)) {
    const row = rowOf(board)
    groups.set(row, [...(groups.get(row) ?? []), board])
  }
  return [...groups.values()].filter((g) => g.length > 1).sort((a, b) => b.length - a.length)
}
