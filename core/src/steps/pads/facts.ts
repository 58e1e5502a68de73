import { type PadReading, readingNames } from '../../pads/readings'
import { type PadSolution, readPads, solvePads } from '../../pads/solve'
import { remembered } from '../../unit/remembered'
import type { UnitView } from '../../unit/view'

export interface PadState {
  solution: PadSolution | null
  /** Readings that cannot be: they are kept, said, and left out of the answer. */
  faults: { pad: number; reading: string; message: string }[]
  /** How many readings the answer rests on. */
  readings: number
}

/**
 * Which pad is what, from readings as they were entered. Impossible readings do not silence the others.
 * @param evenBlank solve a row without any reading too: it then says what to measure first
 * @param printed what a module's map says of each pad: it counts as print, where nothing else was read there
 */
export function padStateOfReadings(
  readings: readonly PadReading[],
  railKnown: boolean,
  evenBlank = false,
  printed: readonly string[] = [],
): PadState {
  const faults: PadState['faults'] = []
  const clean = readings.map((cell, pad) => {
    let kept: Record<string, unknown> = { ...cell }
    for (let tries = 0; tries < readingNames.length; tries++) {
      const one = readPads({ pads: [kept] })
      const fault = one.ok ? undefined : one.faults[0]
      if (!fault) break
      // A loaded voltage without the idle one is only waiting for it.
      const reading = fault.code === 'missing' ? 'volts_10k' : (fault.path.split('/').at(-1) as string)
      if (fault.code !== 'missing') faults.push({ pad, reading, message: fault.message })
      const { [reading]: _, ...rest } = kept
      kept = rest
    }
    return kept
  })
  const count = clean.reduce((n, cell) => n + Object.values(cell).filter((x) => x !== undefined).length, 0)
  const pads = clean.map((cell, i) => (printed[i] ? { label: printed[i], ...cell } : cell))
  const outcome = pads.length > 0 && (count > 0 || evenBlank) ? solvePads({ pads, railKnown }) : null
  return { solution: outcome?.ok ? outcome.value : null, faults, readings: count }
}

/** The roles of a module's contacts, which count as print beside them: like print, they never prove a supply by themselves. */
export const printedBy = (data: UnitView['records']['pads']['data']): string[] =>
  data.moduleId === null ? [] : data.pads.map((role) => (role === 'UNKNOWN' ? '' : role))

const padState = remembered((data: UnitView['records']['pads']['data']) =>
  padStateOfReadings(data.readings, data.railKnown, false, printedBy(data)),
)

export const padStateOf = (view: UnitView): PadState => padState(view.records.pads.data)

export const padsOf = (view: UnitView) =>
  view.records.pads.data.pads.length > 0 ? view.records.pads.data : (view.board?.pads ?? view.records.pads.data)

/** Below this the meter speaks against a role, as 97 % speaks for it. */
const spokenAgainst = 0.03

/**
 * GND and 3V3 measured on this unit, or the same row measured on another unit of the board while nothing that was
 * measured on this one speaks against it.
 */
export function railsProven(view: UnitView): boolean {
  const row = view.records.pads.data.pads
  const known = view.board?.pads?.pads
  const { solution } = padStateOf(view)
  const contradicted = (known ?? []).some(
    (r, i) => (r === 'GND' || r === '3V3') && (solution?.marginals[i]?.[r] ?? 1) < spokenAgainst,
  )
  if (
    known &&
    !contradicted &&
    (row.length === 0 || (row.length === known.length && row.every((r, i) => r === known[i])))
  )
    return true
  if (!solution?.safeToWire) return false
  return (['GND', '3V3'] as const).every((role) =>
    row.some((r, i) => r === role && solution.best.roles[i] === role && (solution.marginals[i]?.[role] ?? 0) >= 0.97),
  )
}

/** What keeps GND and 3V3 from being proven, and what to do: they were not measured, or the row says otherwise than the meter. */
export function railsOpen(view: UnitView): { says: string; next: string } {
  const row = view.records.pads.data.pads
  const { solution } = padStateOf(view)
  if (!solution?.safeToWire)
    return {
      says: 'GND and 3V3 are not proven by a meter yet.',
      next: 'Swapping these two destroys the part: measure both, unpowered. Print alone is not enough.',
    }
  return row.includes('GND') && row.includes('3V3')
    ? {
        says: 'The row has GND or 3V3 elsewhere than the meter found them.',
        next: 'Take the row as it was measured, or measure both again: swapping them destroys the part.',
      }
    : {
        says: 'The meter found GND and 3V3; the row is not taken yet.',
        next: 'Take the row once it is clear, or set the role of each pad.',
      }
}
