import type { Happening } from './standing'

/** What somebody else asked of a unit and what it said to that: evidence of a hub that works it. */
export interface AskedAndAnswered {
  field: string
  value: unknown
  askedAt: number
  /** From the asking to its state, ms. */
  afterMs: number
}

/** So long a state counts as the answer to what was asked. */
const answerWithinMs = 10_000
/** What the app sent itself comes back within this time. */
const ownWithinMs = 1500

/**
 * Askings that were answered by a state of the same channel, the newest first.
 * @param happenings in any order  @param ownMs when the app itself sent something to the unit: those are no hub's
 */
export function askedAndAnswered(happenings: readonly Happening[], ownMs: readonly number[] = []): AskedAndAnswered[] {
  return happenings
    .filter((h) => h.kind === 'asked' && !ownMs.some((own) => Math.abs(own - h.at) <= ownWithinMs))
    .flatMap((asked) => {
      const answers = happenings.filter(
        (h) =>
          h.kind === 'state' &&
          h.field === asked.field &&
          h.value === asked.value &&
          h.at >= asked.at &&
          h.at - asked.at <= answerWithinMs,
      )
      const first = Math.min(...answers.map((h) => h.at))
      return answers.length === 0
        ? []
        : [{ field: asked.field ?? '', value: asked.value, askedAt: asked.at, afterMs: first - asked.at }]
    })
    .sort((a, b) => b.askedAt - a.askedAt)
}
