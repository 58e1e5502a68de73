import { z } from 'zod'

/** How a firmware's setup is opened by the button of a unit, and whether somebody did just that (brief 05 §1). */

const some = z.string().max(200).default('')
export const SetupMode = z.discriminatedUnion('by', [
  z.object({
    by: z.literal('presses'),
    presses: z.number().int().min(2).max(30),
    withinS: z.number().min(0.5).max(60),
    /** What the light does when it worked. */
    light: some,
  }),
  z.object({
    by: z.literal('hold'),
    holdS: z.number().min(0.5).max(120),
    /** Held this long it forgets its settings; null where it does not, or nobody knows. */
    wipesAfterS: z.number().min(1).max(300).nullable().default(null),
    light: some,
  }),
])
export type SetupMode = z.infer<typeof SetupMode>
type Presses = Extract<SetupMode, { by: 'presses' }>
type Hold = Extract<SetupMode, { by: 'hold' }>

/** After this long without a press the unit has counted what there was. */
export const settleS = 2
/** So long nothing is pressed after a miscount, before it is begun again. */
export const restS = 10

export interface Beats {
  count: number
  /** counting: go on; wait: enough, press no more; right: it was so; over: too many; slow: too few in the time. */
  state: 'idle' | 'counting' | 'wait' | 'right' | 'over' | 'slow'
  /** Seconds from the first press that are left; 0 when the time is over. */
  leftS: number
}

/** @param times seconds of the presses, ascending  @param now seconds on the same clock */
export function judgePresses(times: readonly number[], now: number, { presses, withinS }: Presses): Beats {
  const [first] = times
  if (first === undefined) return { count: 0, state: 'idle', leftS: withinS }
  const inTime = times.filter((t) => t - first <= withinS)
  const leftS = Math.max(0, withinS - (now - first))
  const count = times.length
  if (inTime.length < presses) return { count, state: leftS > 0 ? 'counting' : 'slow', leftS }
  // One more after it was right is one too many for the unit as well.
  if (count > presses) return { count, state: 'over', leftS }
  return { count, state: now - (times.at(-1) ?? now) >= settleS ? 'right' : 'wait', leftS }
}

export interface Held {
  state: 'idle' | 'holding' | 'let-go' | 'danger' | 'right' | 'short' | 'wiped'
  heldS: number
}

/** @param from second at which it was pressed, null before  @param to at which it was let go, null while it is held */
export function judgeHold(from: number | null, to: number | null, now: number, { holdS, wipesAfterS }: Hold): Held {
  if (from === null) return { state: 'idle', heldS: 0 }
  const heldS = (to ?? now) - from
  const wiped = wipesAfterS !== null && heldS >= wipesAfterS
  if (to !== null) return { state: wiped ? 'wiped' : heldS >= holdS ? 'right' : 'short', heldS }
  if (wiped) return { state: 'wiped', heldS }
  // Half of the way to forgetting everything is late enough to say so.
  const warn = wipesAfterS !== null && heldS >= (holdS + wipesAfterS) / 2
  return { state: warn ? 'danger' : heldS >= holdS ? 'let-go' : 'holding', heldS }
}
