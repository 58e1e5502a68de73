import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refusal, refuse } from '../edge/fault'
import { lastOf, nth } from '../edge/nth'

import {
  fit,
  type Guess,
  keyOrder,
  type LoadKind,
  type Place,
  type Scaled,
  type Scales,
  type Snapshot,
  type Values,
  weighGuesses,
} from './raw-guesses'

export type { LoadKind, Place, Snapshot } from './raw-guesses'

/**
 * Which of a unit's numbered raw values is volts, amperes and watts, from snapshots in known states (brief 04 §1). Every ordered
 * triple of keys at every usual scale is scored; a load that is resistive parts amperes from watts, a charger never does.
 */
export interface Triple {
  voltage: Scaled
  current: Scaled
  power: Scaled
  probability: number
}
export interface OtherKey {
  quantity: 'switch' | 'frequency' | 'powerFactor' | 'countdown' | 'constant' | 'energy' | 'unknown'
  k: number | null
  confidence: 'high' | 'medium' | 'low' | null
}
export interface OnHand {
  id: string
  kind: LoadKind
  w: number | null
  pf: number | null
}
export interface RawMap {
  best: Triple
  ranked: Triple[]
  keys: Record<string, { voltage: number; current: number; power: number }>
  explain: { id: string; V: number; I: number; P: number; pf: number | null }[]
  others: Record<string, OtherKey>
  ignored: string[]
  settled: boolean
  nextRanked: { id: string; gain: number }[]
  next: string | null
}

const settledFrom = 0.95
/** A socket’s, where nobody has said what the unit bears. */
export const usualRatingA = 16
const mostKeys = 40
const consideredNext = 20
const mostGain = 20

const at = (raw: Snapshot['raw'], { key, k }: Scaled): number => Number(raw[key]) * 10 ** -k
const valuesOf = (raw: Snapshot['raw'], g: Guess) => ({
  V: at(raw, g.V),
  I: at(raw, g.I),
  P: at(raw, g.P),
})
const scalesOfGuess = (g: Guess): Scales => ({ V: g.V.k, I: g.I.k, P: g.P.k })

/** Snapshots in the order of their times, where all have one. */
const inTime = (snapshots: readonly Snapshot[]): { list: Snapshot[]; timed: boolean } => {
  const timed = snapshots.every((s) => s.at !== null)
  return { list: timed ? [...snapshots].sort((a, b) => (a.at ?? 0) - (b.at ?? 0)) : [...snapshots], timed }
}
const loaded = (s: Snapshot): boolean => s.on && s.load.kind !== 'none'

interface Known {
  snapshots: Snapshot[]
  timed: boolean
  place: Place
  best: Guess
  bothStates: boolean
}
const pfOf = (x: Values): number | null => (x.V * x.I > 0 ? x.P / (x.V * x.I) : null)

function powerFactorScale(values: readonly number[], { snapshots, best }: Known): OtherKey | null {
  const pfs = snapshots.map((s) => (loaded(s) ? pfOf(valuesOf(s.raw, best)) : null))
  const seen = pfs.filter((p) => p !== null)
  if (seen.length === 0) return null
  for (const k of [2, 3]) {
    const scaled = values.map((v) => v * 10 ** -k)
    const fits =
      scaled.every((v) => v <= 1.001) && pfs.every((pf, i) => pf === null || Math.abs(nth(scaled, i) - pf) <= 0.05)
    if (fits)
      return { quantity: 'powerFactor', k, confidence: Math.max(...seen) - Math.min(...seen) > 0.1 ? 'high' : 'medium' }
  }
  return null
}

function countsDown(values: readonly number[], { snapshots, timed }: Known): boolean {
  if (!timed) return false
  return values.some((v, i) => {
    const [next, from, to] = [values[i + 1], snapshots[i]?.at, snapshots[i + 1]?.at]
    if (next === undefined || from == null || to == null || v <= 0 || next <= 0) return false
    return Math.abs(v - next - (to - from) / 1000) <= 2 && next < v
  })
}

function energyScale(values: readonly number[], { snapshots, timed, best }: Known): OtherKey {
  if (!timed) return { quantity: 'energy', k: null, confidence: 'low' }
  let kWh = 0
  for (let i = 1; i < snapshots.length; i++) {
    const [before, now] = [snapshots[i - 1] as Snapshot, snapshots[i] as Snapshot]
    kWh += (valuesOf(before.raw, best).P * ((now.at ?? 0) - (before.at ?? 0))) / 3.6e9
  }
  const rise = lastOf(values) - nth(values, 0)
  const scales = [0, 1, 2, 3].map((k) => ({ k, off: Math.abs(rise * 10 ** -k - kWh) }))
  return { quantity: 'energy', k: scales.reduce((a, b) => (b.off < a.off ? b : a)).k, confidence: 'medium' }
}

/** The first rule that fits a number that is none of the three. */
function otherOf(values: readonly number[], known: Known, switchFound: boolean): OtherKey {
  const { snapshots, place, bothStates } = known
  if (!switchFound && bothStates && values.every((v, i) => v === (snapshots[i]?.on ? 1 : 0)))
    return { quantity: 'switch', k: null, confidence: 'medium' }
  for (const k of [0, 1, 2])
    if (values.every((v) => Math.abs(v * 10 ** -k - place.nominalHz) <= 0.02 * place.nominalHz))
      return { quantity: 'frequency', k, confidence: 'high' }
  const factor = powerFactorScale(values, known)
  if (factor) return factor
  if (values.every((v) => v === 0)) return { quantity: 'countdown', k: 0, confidence: 'low' }
  if (countsDown(values, known)) return { quantity: 'countdown', k: 0, confidence: 'high' }
  if (values.length >= 2 && values.every((v) => v === values[0]))
    return { quantity: 'constant', k: null, confidence: 'low' }
  const falls = values.some((v, i) => i > 0 && v < nth(values, i - 1))
  if (!falls && values.length >= 2 && Math.max(...values) > 0) return energyScale(values, known)
  return { quantity: 'unknown', k: null, confidence: null }
}

export const usualLoads: readonly OnHand[] = [
  { id: 'nothing', kind: 'none', w: null, pf: null },
  { id: 'charger-10', kind: 'charger', w: 10, pf: 0.45 },
  { id: 'resistive-60', kind: 'resistive', w: 60, pf: 1 },
  { id: 'resistive-1000', kind: 'resistive', w: 1000, pf: 1 },
]

/** How much a snapshot with each load would tell the likely triples apart; loads above the rating are never suggested. */
function gainsOf(
  guesses: readonly Guess[],
  snapshots: readonly Snapshot[],
  loads: readonly OnHand[],
  place: Place,
): { id: string; gain: number }[] {
  const top = guesses.slice(0, consideredNext)
  const total = top.reduce((sum, g) => sum + g.p, 0)
  const last = snapshots.at(-1) as Snapshot
  const out: { id: string; gain: number }[] = []
  for (const load of loads) {
    const [w, pf] = [load.kind === 'none' ? 0 : (load.w ?? 0), load.pf ?? 1]
    if (w / (place.nominalV * pf) > place.ratingA) continue
    const state = {
      on: true,
      load: { kind: load.kind, w: load.kind === 'none' ? null : load.w },
      reference: { V: null, I: null, P: null },
    }
    let gain = 0
    for (const i of top) {
      const V = snapshots.reduce((sum, s) => sum + at(s.raw, i.V), 0) / snapshots.length
      const shown = { V, P: w, I: V * pf === 0 ? 0 : w / (V * pf) }
      const raw: Record<string, unknown> = { ...last.raw }
      for (const q of ['V', 'I', 'P'] as const) raw[i[q].key] = Math.floor(shown[q] * 10 ** i[q].k + 0.5)
      const likelihood = (g: Guess) => fit(state, valuesOf(raw, g), scalesOfGuess(g), place)
      const own = likelihood(i)
      for (const j of top)
        if (j !== i) gain += (i.p / total) * (j.p / total) * Math.min(mostGain, Math.max(0, own - likelihood(j)))
    }
    out.push({ id: load.id, gain })
  }
  return out
    .map((g, order) => ({ ...g, order }))
    .sort((a, b) => b.gain - a.gain || a.order - b.order)
    .map(({ id, gain }) => ({ id, gain }))
}

const tripleOf = ({ V, I, P, p }: Guess): Triple => ({ voltage: V, current: I, power: P, probability: p })

/** At least three numeric keys, at least one snapshot. */
export function mapRaw(given: readonly Snapshot[], place: Place, loads: readonly OnHand[], top: number): RawMap | null {
  const { list: snapshots, timed } = inTime(given)
  const keys = [...new Set(snapshots.flatMap((s) => Object.keys(s.raw)))].sort(keyOrder)
  const every = (key: string, is: (v: unknown) => boolean) =>
    snapshots.every((s) => Object.hasOwn(s.raw, key) && is(s.raw[key]))
  const booleans = keys.filter((k) => every(k, (v) => typeof v === 'boolean'))
  const numbers = keys.filter((k) => every(k, (v) => Number.isInteger(v)))
  if (numbers.length < 3) return null
  const { first, keys: marginals } = weighGuesses(numbers, snapshots, place, Math.max(top, consideredNext))
  const best = nth(first, 0)
  const states = new Set(snapshots.map((s) => s.on))
  const known: Known = { snapshots, timed, place, best, bothStates: states.size === 2 }
  const isSwitch = (key: string) => snapshots.every((s) => s.raw[key] === s.on)
  const others: Record<string, OtherKey> = {}
  for (const key of booleans)
    others[key] = isSwitch(key)
      ? { quantity: 'switch', k: null, confidence: known.bothStates ? 'high' : 'low' }
      : { quantity: 'unknown', k: null, confidence: null }
  const switchFound = booleans.some(isSwitch)
  const taken = new Set([best.V.key, best.I.key, best.P.key])
  for (const key of numbers)
    if (!taken.has(key))
      others[key] = otherOf(
        snapshots.map((s) => Number(s.raw[key])),
        known,
        switchFound,
      )
  const settled = best.p >= settledFrom
  const nextRanked = gainsOf(first, snapshots, loads, place)
  return {
    best: tripleOf(best),
    ranked: first.slice(0, top).map(tripleOf),
    keys: marginals,
    explain: given.map((s) => {
      const x = valuesOf(s.raw, best)
      return { id: s.id, ...x, pf: pfOf(x) }
    }),
    others,
    ignored: keys.filter((k) => !booleans.includes(k) && !numbers.includes(k)),
    settled,
    nextRanked,
    next: settled ? null : (nextRanked[0]?.id ?? null),
  }
}

const above0 = z.number().superRefine((n, context) => {
  if (n <= 0) refuse(context, 'range', [], 'It must be above 0.')
})
const kind = z.enum(['none', 'resistive', 'charger', 'motor', 'other'])
const Request = z.object({
  mains: z.object({ nominalV: above0, nominalHz: above0 }),
  ratingA: above0.nullish(),
  snapshots: z
    .array(
      z.object({
        id: z.string().min(1),
        at: z
          .string()
          .superRefine((text, context) => {
            if (Number.isNaN(Date.parse(text)) || !/(Z|[+-]\d{2}:?\d{2})$/.test(text))
              refuse(context, 'input', [], 'A time is ISO 8601 with its offset.')
          })
          .nullish(),
        switch: z.enum(['on', 'off']),
        load: z.object({ kind, w: above0.nullish() }),
        reference: z.object({ V: z.number().nullish(), I: z.number().nullish(), P: z.number().nullish() }).nullish(),
        raw: z.record(z.string(), z.unknown()),
      }),
    )
    .min(1)
    .max(200),
  available: z
    .array(
      z.object({
        id: z.string().min(1),
        kind,
        w: z.number().min(0).nullish(),
        pf: z
          .number()
          .superRefine((pf, context) => {
            if (pf <= 0 || pf > 1) refuse(context, 'range', [], 'A power factor is above 0, and 1 at most.')
          })
          .nullish(),
      }),
    )
    .max(200)
    .nullish(),
  top: z.number().int().min(1).max(1000).nullish(),
})

/** `meter map`: the three of a meter among raw values, the rest, and the load that tells most next. */
export function meterMap(input: unknown): Outcome<RawMap> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { mains, ratingA, snapshots, available, top } = parsed.value
  const numeric = Object.keys(snapshots[0]?.raw ?? {}).length
  if (numeric > mostKeys)
    return refusal('range', '/snapshots/0/raw', `More than ${mostKeys} raw values are not compared.`)
  const map = mapRaw(
    snapshots.map((s) => ({
      id: s.id,
      at: s.at == null ? null : Date.parse(s.at),
      on: s.switch === 'on',
      load: { kind: s.load.kind, w: s.load.w ?? null },
      reference: { V: s.reference?.V ?? null, I: s.reference?.I ?? null, P: s.reference?.P ?? null },
      raw: s.raw,
    })),
    { ...mains, ratingA: ratingA ?? usualRatingA },
    (available ?? usualLoads).map((l) => ({ id: l.id, kind: l.kind, w: l.w ?? null, pf: l.pf ?? null })),
    top ?? 5,
  )
  return map
    ? { ok: true, value: map }
    : refusal('empty', '/snapshots', 'At least three numbers are in every snapshot.')
}
