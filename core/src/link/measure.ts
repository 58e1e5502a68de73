import { type Flow, type Line, reportOf } from './flow'
import { type Identity, Silent } from './identity'
import { backToFirstRate, changeRate, testLine } from './line-test'

/** What a line is worth, measured on a chip in its loader: how long an answer waits, and the highest rate that holds (brief 06 §6). */

export interface LineMeasure {
  /** What the adapter waits before it hands an answer on, in ms: the median of register reads without their time on the line. */
  latencyMs: number | null
  /** Each rate that was tried, from the first on. */
  rates: { rate: number; holds: boolean }[]
  /** The highest that held; null where not even the first did. */
  bestRate: number | null
}

const faster = [230_400, 460_800, 921_600] as const

/** A rate that the chip was set to and is not heard at has to be left by a reset: it does not hold. */
function* heldAt(line: Line, who: Identity, rate: number): Flow<boolean> {
  try {
    return yield* changeRate(line, who, rate)
  } catch (cause) {
    if (cause instanceof Silent) return false
    throw cause
  }
}

/** @param mayChange whether both ends can change their rate: a bridge speaks at the rate that it was set to */
export function* measureLine(line: Line, who: Identity, mayChange: boolean): Flow<LineMeasure> {
  const { holds } = yield* testLine(line, who)
  const rates = [{ rate: line.rate, holds }]
  const { latencyMs } = reportOf(line)
  for (const rate of holds && mayChange ? faster : []) {
    const held = yield* heldAt(line, who, rate)
    rates.push({ rate, holds: held })
    if (!held) break
  }
  yield* backToFirstRate(line)
  return { latencyMs, rates, bestRate: rates.findLast((r) => r.holds)?.rate ?? null }
}
