import type { StepId } from '../unit/way'
import { planBenchOf } from './bench-plan'

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

/** What lies ready for a step: the same twice in a row is set up once. */
const setUp: Partial<Record<StepId, string[]>> = {
  open: ['driver'],
  close: ['driver'],
  pads: ['multimeter'],
  wire: ['adapter'],
  backup: ['adapter'],
  write: ['adapter'],
  start: ['adapter'],
  pins: ['adapter'],
  meter: ['reference'],
}
/** The chip works by itself, and hands are free. */
const byItself: ReadonlySet<StepId> = new Set(['backup', 'write'])
/** What is wrong or overdue is worth more than what only goes on. */
const worth = { waits: 3, goesOn: 1 } as const

export interface Evening {
  /** What is done, in its order; minutes from the beginning, set-up before it. */
  tasks: (Piece & { start: number; end: number; setupMin: number })[]
  /** Pieces that do not fit. */
  left: number
  endMin: number
  /** No other choice or order is better; false where there were too many to try. */
  exact: boolean
}

const idOf = (p: Piece) => `${String(p.number).padStart(5, '0')} ${p.step}`

/**
 * What to do in the minutes at hand, in which order (`bench plan`, brief 07 §11): one piece a unit, what waits before what only
 * goes on, tools set up once.
 * @param pieces in the order in which they matter: of one unit the first counts  @param minutes ≥ 0
 */
export function tonight(pieces: readonly Piece[], minutes: number): Evening {
  const first = new Map<number, Piece>()
  for (const p of [...pieces.filter((p) => p.waits), ...pieces.filter((p) => !p.waits)])
    if (!first.has(p.number)) first.set(p.number, p)
  const chosen = [...first.values()]
  if (minutes <= 0 || chosen.length === 0) return { tasks: [], left: chosen.length, endMin: 0, exact: true }
  const byId = new Map(chosen.map((p) => [idOf(p), p]))
  const { order, left, endMin, exact } = planBenchOf(
    chosen.map((p) => ({
      id: idOf(p),
      unit: String(p.number),
      minutes: usualMinutes[p.step],
      hands: !byItself.has(p.step),
      setup: setUp[p.step] ?? [],
      value: p.waits ? worth.waits : worth.goesOn,
    })),
    minutes,
  )
  return {
    tasks: order.map(({ id, start, end, setupMin }) => ({ ...(byId.get(id) as Piece), start, end, setupMin })),
    left: left.length,
    endMin,
    exact,
  }
}
