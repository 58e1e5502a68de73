import type { StepId } from '../unit/way'

/** Usual minutes at the bench for each step: a starting point, until a board's own pace is known. */
export const usualMinutes: Record<StepId, number> = {
  arrive: 4,
  open: 15,
  identify: 8,
  pads: 12,
  wire: 6,
  backup: 12,
  check: 4,
  write: 6,
  start: 3,
  join: 6,
  pins: 25,
  close: 8,
  behaviour: 8,
  meter: 25,
  name: 3,
  hub: 5,
  prove: 4,
  watch: 1,
}

/** One piece of work that could be done now. */
export interface Piece {
  number: number
  step: StepId
  /** It is wrong or overdue: taken before what only goes on. */
  waits: boolean
}

export interface Plan {
  pieces: (Piece & { minutes: number })[]
  minutes: number
}

/**
 * What fits into the minutes at hand: what waits first, then the units that are furthest on; one piece a unit, the next one
 * only if it still fits.
 * @param pieces in the order in which they matter @param minutes ≥ 0
 */
export function planTime(pieces: readonly Piece[], minutes: number): Plan {
  const plan: Plan = { pieces: [], minutes: 0 }
  const taken = new Set<number>()
  for (const piece of [...pieces.filter((p) => p.waits), ...pieces.filter((p) => !p.waits)]) {
    const takes = usualMinutes[piece.step]
    if (taken.has(piece.number) || plan.minutes + takes > minutes) continue
    taken.add(piece.number)
    plan.pieces.push({ ...piece, minutes: takes })
    plan.minutes += takes
  }
  return plan
}
