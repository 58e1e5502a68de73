/** Where readings of a meter come from: typed by hand, a stand-in, a live unit. Whoever reads asks for the moment that is now. */
export interface MeterMoment {
  /** Seconds of the source's own clock. */
  t: number
  V: number | null
  I: number | null
  P: number | null
}
export interface MeterSource {
  readonly name: string
  now: () => MeterMoment
}

/** So many readings in a row have to agree before a value stands still. */
export const settleCount = 5
const settleShare = 0.003

/** Do the last readings agree, within their steps or 0.3 %? A load that still warms up walks away from them. */
export function settles(readings: readonly number[], step: number): boolean {
  const last = readings.slice(-settleCount)
  if (last.length < settleCount) return false
  const [low, high] = [Math.min(...last), Math.max(...last)]
  return high - low <= Math.max(2 * step, settleShare * Math.abs(high))
}
