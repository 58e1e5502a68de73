import { nth } from '../edge/nth'
import { medianOf } from '../flash/attempts'

/** How long a unit really took at the bench, worked out from its events: nobody runs a stopwatch. */

/** A longer silence between two events is a break, not work. */
const breakMinutes = 20
/** What one lone event stands for: opening the page, doing the thing, writing it down. */
const aloneMinutes = 1

/**
 * Hands-on minutes: the gaps between events of one unit that are shorter than 20 minutes, plus a minute for every
 * sitting.
 * @param moments ISO times of the events of one unit, in any order
 */
export function benchMinutes(moments: readonly string[]): number {
  const times = moments.map((m) => Date.parse(m) / 60_000).sort((a, b) => a - b)
  if (times.length === 0) return 0
  let sum = aloneMinutes
  for (let i = 1; i < times.length; i++) {
    const gap = nth(times, i) - nth(times, i - 1)
    sum += gap <= breakMinutes ? gap : aloneMinutes
  }
  return sum
}

export interface Pace {
  units: { number: number; minutes: number; done: boolean }[]
  /** Median of the finished ones; null below two. */
  median: number | null
  /** The last three finished ones against the first, as a share of its time; null below two. */
  share: number | null
}

/** Time per unit of one board, in the order they were begun. */
export function paceOf(units: readonly { number: number; begun: string; minutes: number; done: boolean }[]): Pace {
  const order = [...units].sort((a, b) => Date.parse(a.begun) - Date.parse(b.begun))
  // Half-made units say nothing about how long one takes.
  const minutes = order.filter((u) => u.done).map((u) => u.minutes)
  const first = minutes[0]
  const later = medianOf(minutes.slice(1).slice(-3))
  return {
    units: order.map(({ number, minutes: m, done }) => ({ number, minutes: m, done })),
    median: minutes.length > 1 ? medianOf(minutes) : null,
    share: later !== null && first ? later / first : null,
  }
}
