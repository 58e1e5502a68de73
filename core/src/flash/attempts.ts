import { grouped } from '../bytes/text'
import { nth } from '../edge/nth'
import type { Attempt } from '../unit/view'

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
  return sorted.length % 2 ? nth(sorted, mid) : (nth(sorted, mid - 1) + nth(sorted, mid)) / 2
}

const learnFrom = 10

/**
 * k of an adapter: median of seconds × baud / (bytes × 10) over its last ten good writes; null without any.
 * @param attempts newest first
 */
export function linkOverhead(attempts: readonly Attempt[], adapter: string): number | null {
  const ks = attempts
    .flatMap(({ outcome, adapter: by, seconds, bytes, baud }) =>
      outcome === 'done' && by === adapter && seconds && bytes && seconds > 0 && bytes > 0
        ? (seconds * baud) / (bytes * 10)
        : [],
    )
    .slice(0, learnFrom)
  return medianOf(ks)
}

/** What to do after the attempts of a unit so far; empty while there is nothing to say. Newest first. */
export function attemptAdvice(attempts: readonly Attempt[], mode: string | null): string {
  const [last, before] = attempts
  if (!last || last.outcome === 'done' || last.outcome === 'cancelled') return ''
  const written = (a: Attempt | undefined) => a?.outcome === 'no-start' && a.verified
  if (written(last) && written(before))
    return 'Twice written and equal, and silent both times: write a test image that only blinks a pin. If it blinks, the image was at fault; if not, the wiring or the chip.'
  if (last.outcome === 'no-start')
    return mode && mode !== 'DOUT'
      ? `Wrote and checked, but silent: ${mode} is the first suspect. Patch the image to DOUT and write again.`
      : 'Wrote and checked, but silent: is BOOT free? Then supply, then family, size and offset.'
  if (last.outcome === 'no-answer')
    return before?.outcome === 'no-answer'
      ? 'No answer twice in a row: the boot sequence once more, then exchange TX and RX, then contact and supply.'
      : 'Enter download mode again, holding the strap before power comes.'
  const slower = `Half the rate${last.baud > 9600 ? `, ${grouped(Math.round(last.baud / 2))} baud` : ''}, then contact and supply.`
  return last.action === 'read'
    ? `${slower} Then read the whole chip again: pieces of two reads are never put together.`
    : `${slower} A half-written chip is not a dead one: write again.`
}

/** Adapter, way in and what held the leads, together: the thing that is chosen again next time. */
export const methodOf = (a: Attempt): string =>
  [a.adapter || 'adapter not said', a.entry ?? 'way not said', a.held ? heldWords[a.held] : '']
    .filter(Boolean)
    .join(', ')

export const heldWords: Record<NonNullable<Attempt['held']>, string> = {
  hand: 'held by hand',
  jig: 'in a jig',
  plug: 'a straight plug',
  solder: 'soldered',
}

/** Tries it took until the first good one, per unit; units without a good one are left out. */
export function triesPerUnit(attempts: readonly Attempt[]): number[] {
  const units = [...new Set(attempts.map((a) => a.unitNumber))]
  return units.flatMap((unit) => {
    const own = attempts.filter((a) => a.unitNumber === unit).reverse()
    const good = own.findIndex((a) => a.outcome === 'done')
    return good < 0 ? [] : [good + 1]
  })
}

export interface FailureStory {
  outcome: Attempt['outcome']
  times: number
  /** What was different in the next good attempt on that unit, with how often; "nothing" where nothing was. */
  helped: { what: string; times: number }[]
}

const compared: [string, (a: Attempt) => string][] = [
  ['another adapter', (a) => a.adapter],
  ['another way in', (a) => a.entry ?? ''],
  ['leads held otherwise', (a) => a.held ?? ''],
  ['another supply', (a) => a.power ?? ''],
  ['another mode', (a) => a.mode ?? ''],
  ['another file', (a) => a.sha256],
]

/** The most frequent failure, and what was done before the next success. Null without failures. Newest first. */
export function failureStory(attempts: readonly Attempt[]): FailureStory | null {
  const failures = attempts.filter((a) => a.outcome !== 'done' && a.outcome !== 'cancelled')
  const counts = new Map<Attempt['outcome'], number>()
  for (const f of failures) counts.set(f.outcome, (counts.get(f.outcome) ?? 0) + 1)
  const [worst] = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
  if (!worst) return null
  const helped = new Map<string, number>()
  for (const failure of failures.filter((f) => f.outcome === worst[0])) {
    const own = attempts.filter((a) => a.unitNumber === failure.unitNumber)
    const next = own
      .slice(0, own.indexOf(failure))
      .reverse()
      .find((a) => a.outcome === 'done')
    if (!next) continue
    const rate = next.baud > 0 && next.baud < failure.baud ? [`${grouped(next.baud)} baud`] : []
    // A patched copy is another file, too: the mode says it better.
    const changed = compared.filter(([, of]) => of(failure) !== of(next)).map(([what]) => what)
    const said = [...rate, ...changed.filter((what) => what !== 'another file' || !changed.includes('another mode'))]
    for (const what of said.length > 0 ? said : ['nothing']) helped.set(what, (helped.get(what) ?? 0) + 1)
  }
  return {
    outcome: worst[0],
    times: worst[1],
    helped: [...helped]
      .map(([what, times]) => ({ what, times }))
      .sort((a, b) => b.times - a.times || (a.what < b.what ? -1 : 1)),
  }
}
