import type { Attempt } from '../journey/view'

/** What past attempts teach: which way works how often, how long it takes, what to try after a failure. */

const z = 1.96
/** Fewer attempts than this are no percentage. */
export const fewestForShare = 3

/** Lower bound of Wilson's score interval for k of n, 95 %: ranks "14 of 15" above "3 of 3". */
export function wilsonLower(k: number, n: number): number {
  if (n === 0) return 0
  const p = k / n
  const z2 = z * z
  const low = (p + z2 / (2 * n) - z * Math.sqrt((p * (1 - p)) / n + z2 / (4 * n * n))) / (1 + z2 / n)
  return Math.max(0, low)
}

export interface SuccessRate {
  key: string
  done: number
  tries: number
  lower: number
}

/** Success by whatever `keyOf` names, best first. */
export function ratesBy(attempts: readonly Attempt[], keyOf: (a: Attempt) => string): SuccessRate[] {
  const groups = new Map<string, { done: number; tries: number }>()
  for (const a of attempts) {
    const key = keyOf(a)
    const group = groups.get(key) ?? { done: 0, tries: 0 }
    group.tries++
    if (a.outcome === 'done') group.done++
    groups.set(key, group)
  }
  return [...groups]
    .map(([key, g]) => ({ key, ...g, lower: wilsonLower(g.done, g.tries) }))
    .sort((a, b) => b.lower - a.lower || (a.key < b.key ? -1 : 1))
}

/** "14 of 15, 93 %"; without a percentage below three. */
export const rateWords = (rate: { done: number; tries: number }): string =>
  `${rate.done} of ${rate.tries}${rate.tries >= fewestForShare ? `, ${Math.round((100 * rate.done) / rate.tries)} %` : ''}`

export const medianOf = (list: readonly number[]): number | null => {
  if (list.length === 0) return null
  const sorted = [...list].sort((a, b) => a - b)
  const mid = sorted.length >> 1
  return sorted.length % 2 ? (sorted[mid] as number) : ((sorted[mid - 1] as number) + (sorted[mid] as number)) / 2
}

const learnFrom = 10

/**
 * k of an adapter: median of seconds × baud / (bytes × 10) over its last ten good writes; null without any.
 * @param attempts newest first
 */
export function linkOverhead(attempts: readonly Attempt[], adapter: string): number | null {
  const ks = attempts
    .filter((a) => a.outcome === 'done' && a.adapter === adapter && (a.seconds ?? 0) > 0 && (a.bytes ?? 0) > 0)
    .slice(0, learnFrom)
    .map((a) => ((a.seconds as number) * a.baud) / ((a.bytes as number) * 10))
  return medianOf(ks)
}

/** What to do after the attempts of a unit so far; empty while there is nothing to say. Newest first. */
export function attemptAdvice(attempts: readonly Attempt[], mode: string | null): string {
  const [last, before] = attempts
  if (!last || last.outcome === 'done' || last.outcome === 'cancelled') return ''
  if (last.outcome === 'no-start')
    return mode && mode !== 'DOUT'
      ? `Wrote and checked, but silent: ${mode} is the first suspect. Patch the image to DOUT and write again.`
      : 'Wrote and checked, but silent: is BOOT free? Then supply, then family, size and offset.'
  if (last.outcome === 'no-answer')
    return before?.outcome === 'no-answer'
      ? 'No answer twice in a row: the boot sequence once more, then exchange TX and RX, then contact and supply.'
      : 'Enter download mode again, holding the strap before power comes.'
  return `Half the rate${last.baud > 9600 ? `, ${Math.round(last.baud / 2)} baud` : ''}, then contact and supply. A half-written chip is not a dead one: write again.`
}
