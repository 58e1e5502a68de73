import { type Outcome, refusal } from '../edge/fault'
import type { Adapter } from '../unit/view'
import { crossingsOf, type Lead, largestFlatSet, partnerOf } from './jig'
import type { PadRole } from './wiring'

/**
 * Two parallel rows of pads, a whole number of 2.54 mm steps apart: a plug of two pin rows with loose leads, or a jig that
 * carries the adapter's socket too. Everything is counted as seen from the parts side of the plug; the drawing turns it for
 * the solder side (brief 07 §1).
 */
export interface TwoRowsInput {
  adapter: Pick<Adapter, 'pins' | 'labelledFrom'>
  /** The two rows as seen from the face that the plug goes on to, left to right. */
  rows: readonly [readonly PadRole[], readonly PadRole[]]
  /** Between the rows, in steps of 2.54 mm. */
  gap: number
  needed: readonly PadRole[]
}

export interface TwoRowsWire {
  role: PadRole
  /** Index in the adapter's row as given. */
  adapter: number
  row: 0 | 1
  /** Index in its row. */
  column: number
  /** Bottom: bare, along the board. Top: insulated, over the others. */
  layer: 'top' | 'bottom'
}

export interface TwoRowsPlan {
  /** The row that lies next to the adapter's socket. */
  near: 0 | 1
  adapterReversed: boolean
  wires: TwoRowsWire[]
  /** Pairs of wires that cross. */
  crossings: number
  topWires: number
  /** Holes of the perfboard: across, and from the socket's row to the far row of pins. */
  cols: number
  rows: number
  gap: number
}

interface Spot {
  row: 0 | 1
  column: number
}

/** Every way to give each role a pad: several pads of a role are as good as each other. */
function choices(input: TwoRowsInput, needed: readonly PadRole[]): Map<PadRole, Spot[]> {
  return new Map(
    needed.map((role) => [
      role,
      input.rows.flatMap((pads, row) =>
        pads.flatMap((r, column) => (r === role ? [{ row: row as 0 | 1, column }] : [])),
      ),
    ]),
  )
}

/**
 * A wire to the far row passes between the pins of the near one, so it always runs insulated on top; of those to the near row the
 * largest set that does not cross stays bare below.
 */
function planned(input: TwoRowsInput, needed: readonly PadRole[], near: 0 | 1, reversed: boolean): TwoRowsPlan {
  const { pins, labelledFrom } = input.adapter
  const spots = choices(input, needed)
  const used = new Set<number>()
  const leads = needed.map((role): Lead & Spot => {
    const adapter = pins.findIndex((name, i) => name === partnerOf(role, labelledFrom) && !used.has(i))
    used.add(adapter)
    const at = reversed ? pins.length - 1 - adapter : adapter
    const options = spots.get(role) as Spot[]
    // The near row before the far one, then the shortest way.
    const spot = [...options].sort(
      (a, b) => Number(a.row !== near) - Number(b.row !== near) || Math.abs(a.column - at) - Math.abs(b.column - at),
    )[0] as Spot
    return { role, adapter, at, pad: spot.column, ...spot }
  })
  const flat = largestFlatSet(leads.filter((l) => l.row === near))
  const bottom = new Set(flat.map((l) => l.role))
  return {
    near,
    adapterReversed: reversed,
    crossings: crossingsOf(leads),
    topWires: leads.length - bottom.size,
    cols: Math.max(...input.rows.map((r) => r.length), pins.length),
    rows: 2 + (leads.length === bottom.size ? 1 : 2) + input.gap,
    gap: input.gap,
    wires: leads
      .sort((a, b) => a.row - b.row || a.column - b.column)
      .map((l) => ({
        role: l.role,
        adapter: l.adapter,
        row: l.row,
        column: l.column,
        layer: bottom.has(l.role) ? 'bottom' : 'top',
      })),
  }
}

/** The way with the fewest insulated wires, then the fewest crossings. Refusals: `missing-role`, `missing-pin`, `range` (gap). */
export function planTwoRows(input: TwoRowsInput): Outcome<TwoRowsPlan> {
  if (!Number.isInteger(input.gap) || input.gap < 1)
    return refusal('range', '/gap', 'Rows are a whole number of 2.54 mm steps apart, one at least.')
  for (const role of input.needed) {
    if (!input.rows.some((row) => row.includes(role)))
      return refusal('missing-role', '/rows', `The pads have no ${role}.`)
    const pin = partnerOf(role, input.adapter.labelledFrom)
    if (!input.adapter.pins.includes(pin)) return refusal('missing-pin', '/adapter', `The adapter has no ${pin} pin.`)
  }
  const ways = ([0, 1] as const).flatMap((near) =>
    [false, true].map((reversed) => planned(input, input.needed, near, reversed)),
  )
  const best = ways.reduce((a, b) =>
    b.topWires < a.topWires || (b.topWires === a.topWires && b.crossings < a.crossings) ? b : a,
  )
  return { ok: true, value: best }
}
