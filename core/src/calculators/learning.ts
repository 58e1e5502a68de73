/** How much quicker one gets, from what units took one after the other. */

export interface LearningCurve {
  /** Minutes of the first unit, as the curve has it. */
  first: number
  /** What each doubling of their number takes of the time before it: 0.8 is a fifth less. Never above 1. */
  rate: number
  units: number
}

/** So many units in a row say how fast somebody learns. */
export const enoughToLearn = 5
const fastest = 0.5

/**
 * The line through log t(n) over log2 n by least squares: t(n) = first · n^log2(rate). Where units took longer and longer the
 * rate is 1: nothing is unlearned for good. Null below five units.
 * @param taken minutes of units in the order they were made, above 0
 */
export function learningOf(taken: readonly number[]): LearningCurve | null {
  const points = taken.flatMap((minutes, i) => (minutes > 0 ? [{ x: Math.log2(i + 1), y: Math.log(minutes) }] : []))
  if (points.length < enoughToLearn) return null
  const mean = (pick: (p: { x: number; y: number }) => number) =>
    points.reduce((s, p) => s + pick(p), 0) / points.length
  const mx = mean((p) => p.x)
  const my = mean((p) => p.y)
  const sxx = points.reduce((s, p) => s + (p.x - mx) ** 2, 0)
  const sxy = points.reduce((s, p) => s + (p.x - mx) * (p.y - my), 0)
  const slope = Math.min(0, Math.max(Math.log(fastest), sxy / sxx))
  return { first: Math.exp(my - slope * mx), rate: Math.exp(slope), units: points.length }
}

/** Minutes of the nth unit. @param n 1, 2, … */
export const minutesAt = (curve: LearningCurve, n: number): number => curve.first * n ** Math.log2(curve.rate)

/**
 * The curve of the units still to come, for a comparison that begins to count at one: right for the next unit and for the
 * last one that is asked for, and between them off by little, since the way is flat by then.
 */
export function learningAhead(curve: LearningCurve, last: number): LearningCurve {
  const next = minutesAt(curve, curve.units + 1)
  const end = minutesAt(curve, curve.units + last)
  return { first: next, rate: last > 1 ? (end / next) ** (1 / Math.log2(last)) : 1, units: curve.units }
}
