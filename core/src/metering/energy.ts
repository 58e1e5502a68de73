import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { nth } from '../edge/nth'

/** A rising energy counter: resets and set-backs, later corrections as factors, prices over time (brief 04 §2.3). */

export interface EnergyInterval {
  from: string
  to: string
  kWh: number
  corrected: number
  cost: number
}
export interface EnergyHistory {
  intervals: EnergyInterval[]
  total: number
  corrected: number
  changePct: number | null
  cost: number
  /** Energy before the first price. */
  unpricedKWh: number
  resets: string[]
  setbacks: string[]
  standby: { id: string; kWhPerYear: number; costPerYear: number | null }[]
  findings: Finding[]
}

/** A fall to less than this share is taken for a reset. */
const resetShare = 0.5
const stamp = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})$/
const moment = z.string().superRefine((text, context) => {
  if (!stamp.test(text) || Number.isNaN(Date.parse(text)))
    refuse(context, 'input', [], 'A time is ISO 8601 with its offset.')
})
const notBelow0 = z.number().superRefine((n, context) => {
  if (n < 0) refuse(context, 'range', [], 'It cannot be below 0.')
})
const above0 = z.number().superRefine((n, context) => {
  if (n <= 0) refuse(context, 'range', [], 'It must be above 0.')
})
type Issue = Parameters<typeof refuse>[0]
const rising = (list: readonly { at?: string; from?: string }[], key: 'at' | 'from', context: Issue) => {
  const ms = (i: number) => Date.parse(list[i]?.[key] ?? '')
  for (let i = 1; i < list.length; i++)
    if (!(ms(i) > ms(i - 1))) refuse(context, 'input', [i, key], 'Times have to rise.')
}
const Request = z.object({
  readings: z
    .array(z.object({ at: moment, kWh: notBelow0, reset: z.boolean().nullish() }))
    .max(100_000)
    .superRefine((list, context) => {
      if (list.length < 2) refuse(context, 'empty', [], 'At least two readings are needed.')
      rising(list, 'at', context)
    }),
  factors: z
    .array(z.object({ from: moment, old: above0, new: above0 }))
    .max(1000)
    .superRefine((list, context) => rising(list, 'from', context))
    .nullish(),
  prices: z
    .array(z.object({ from: moment, perKWh: z.number() }))
    .max(1000)
    .superRefine((list, context) => rising(list, 'from', context))
    .nullish(),
  standby: z
    .array(z.object({ id: z.string().min(1), W: notBelow0, hoursPerDay: notBelow0.nullish() }))
    .max(1000)
    .nullish(),
})

/** What holds from a moment on; null before the first. */
function heldAt<T extends { from: string }>(list: readonly T[], ms: number): T | null {
  let held: T | null = null
  for (const item of list) if (Date.parse(item.from) <= ms) held = item
  return held
}

type Reading = { at: string; kWh: number; reset?: boolean | null | undefined }
function stepOf(before: Reading, now: Reading): { kWh: number; what: 'rise' | 'reset' | 'setback' } {
  if (now.reset === true) return { kWh: now.kWh, what: 'reset' }
  if (now.kWh >= before.kWh) return { kWh: now.kWh - before.kWh, what: 'rise' }
  const reset = now.reset !== false && now.kWh < resetShare * before.kWh
  // Counting the whole reading again after a set-back would invent tens of kWh.
  return reset ? { kWh: now.kWh, what: 'reset' } : { kWh: 0, what: 'setback' }
}

const hoursPerYear = 365

/** `energy correct`. The raw readings stay as they are; what is corrected is worked out each time. */
export function correctEnergy(input: unknown): Outcome<EnergyHistory> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { readings } = parsed.value
  const factors = parsed.value.factors ?? []
  const prices = parsed.value.prices ?? []
  const cuts = [...factors, ...prices].map((c) => Date.parse(c.from)).sort((a, b) => a - b)
  const out: EnergyHistory = {
    intervals: [],
    total: 0,
    corrected: 0,
    changePct: null,
    cost: 0,
    unpricedKWh: 0,
    resets: [],
    setbacks: [],
    standby: [],
    findings: [],
  }
  for (let i = 1; i < readings.length; i++) {
    const [before, now] = [readings[i - 1] as Reading, readings[i] as Reading]
    const { kWh, what } = stepOf(before, now)
    if (what === 'reset') out.resets.push(now.at)
    if (what === 'setback') out.setbacks.push(now.at)
    const [from, to] = [Date.parse(before.at), Date.parse(now.at)]
    const edges = [from, ...cuts.filter((c) => c > from && c < to), to]
    const interval: EnergyInterval = { from: before.at, to: now.at, kWh, corrected: 0, cost: 0 }
    for (let k = 1; k < edges.length; k++) {
      const [a, b] = [nth(edges, k - 1), nth(edges, k)]
      const factor = heldAt(factors, a)
      const price = heldAt(prices, a)
      const part = ((kWh * (b - a)) / (to - from)) * (factor ? factor.new / factor.old : 1)
      interval.corrected += part
      if (price) interval.cost += part * price.perKWh
      else out.unpricedKWh += part
    }
    out.intervals.push(interval)
    out.total += kWh
    out.corrected += interval.corrected
    out.cost += interval.cost
  }
  out.changePct = out.total > 0 ? 100 * (out.corrected / out.total - 1) : null
  const latest = prices.at(-1)
  out.standby = (parsed.value.standby ?? []).map(({ id, W, hoursPerDay }) => {
    const kWhPerYear = (W * (hoursPerDay ?? 24) * hoursPerYear) / 1000
    return { id, kWhPerYear, costPerYear: latest ? kWhPerYear * latest.perKWh : null }
  })
  out.findings = [
    ...out.resets.map((at) => ({
      ...finding(
        'reset',
        'watch',
        'The counter began anew.',
        'What was counted before it is a lower bound.',
        'If it only came back with an older value, say so.',
      ),
      at,
    })),
    ...out.setbacks.map((at) => ({
      ...finding(
        'setback',
        'watch',
        'The counter came back with an older value.',
        'What was used meanwhile is not known.',
        'If it was reset, say so.',
      ),
      at,
    })),
  ]
  return { ok: true, value: out }
}
