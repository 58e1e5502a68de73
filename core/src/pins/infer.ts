import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { nth } from '../edge/nth'
import type { Confidence } from './template'
import { naturalOrder } from './words'

/**
 * Which pin does what, from what was driven and what was seen: a posterior over every set of pins that could answer with a sign
 * (brief 03 §3, Bayes over independent trials).
 */
export type SignKind = 'edge' | 'level'
export interface Sign {
  id: string
  kind: SignKind
  /** So many pins answer alike. */
  count: number
}
export interface Trial {
  on: readonly string[]
  saw: readonly string[]
  reset: boolean
}
export interface Press {
  name: string
  idle: Readonly<Record<string, number>>
  held: Readonly<Record<string, number>>
}
export interface InferredSign {
  id: string
  pin: string | null
  pins: string[]
  active: 'high' | 'low' | null
  /** To four decimals. */
  p: number
  confidence: Confidence
  /** Trials that the best guess says otherwise of. */
  disagree: number[]
}
export interface InferredInput {
  name: string
  pin: string | null
  active: 'high' | 'low' | null
  changed: string[]
}
export interface Inference {
  signs: InferredSign[]
  inputs: InferredInput[]
  suspects: string[]
  shared: { pin: string; signs: string[] }[]
  next: { sign: string; on: string[] } | null
}

const noneShare = 0.05
const seenIf = { predicted: 0.97, not: 0.01 }
const sure = 0.99
const likely = 0.9
const leastGain = 0.02
const mostSets = 200_000
const tie = 1e-9

export const setsOf = (n: number, k: number): number => {
  let out = 1
  for (let i = 0; i < k; i++) out = (out * (n - i)) / (i + 1)
  return Math.round(out)
}

/** What one trial did to each pin, by its place in `pins`. */
interface Step {
  at: number
  on: Uint8Array
  changed: Uint8Array
  saw: ReadonlySet<string>
}

function stepsOf(pins: readonly string[], trials: readonly Trial[]): { steps: Step[]; suspects: string[] } {
  const steps: Step[] = []
  const suspects = new Set<string>()
  let before = new Uint8Array(pins.length)
  for (const [at, trial] of trials.entries()) {
    const on = Uint8Array.from(pins, (pin) => (trial.on.includes(pin) ? 1 : 0))
    if (trial.reset) {
      for (const [i, pin] of pins.entries()) if (on[i] && !before[i]) suspects.add(pin)
      before = new Uint8Array(pins.length)
      continue
    }
    const changed = on.map((level, i) => (level === before[i] ? 0 : 1))
    steps.push({ at, on, changed, saw: new Set(trial.saw) })
    before = on
  }
  return { steps, suspects: pins.filter((p) => suspects.has(p)) }
}

/** A set of places, and the level that shows there; null for a sign that is heard at any change. */
interface Guess {
  set: readonly number[]
  active: 'high' | 'low' | null
}

/** Every set of `k` of `n` places, lexicographic. */
export function* placesOf(n: number, k: number): Generator<number[]> {
  const set = Array.from({ length: k }, (_, i) => i)
  for (;;) {
    yield [...set]
    let i = k - 1
    while (i >= 0 && set[i] === n - k + i) i--
    if (i < 0) return
    set[i] = nth(set, i) + 1
    for (let j = i + 1; j < k; j++) set[j] = nth(set, j - 1) + 1
  }
}

function guessesOf(n: number, { kind, count }: Sign): Guess[] {
  const out: Guess[] = []
  for (const set of placesOf(n, count)) {
    if (kind === 'edge') out.push({ set, active: null })
    else out.push({ set, active: 'high' }, { set, active: 'low' })
  }
  return out
}

function predicts({ set, active }: Guess, { on, changed }: Step): boolean {
  if (active === null) return set.some((i) => changed[i] === 1)
  const level = active === 'high' ? 1 : 0
  return set.some((i) => on[i] === level)
}

const logs = {
  seen: Math.log(seenIf.predicted),
  missed: Math.log(1 - seenIf.predicted),
  stray: Math.log(seenIf.not),
  quiet: Math.log(1 - seenIf.not),
}

/** Logarithm of the likelihood; made from counts, so that guesses that fare alike are exactly alike. */
function fits(guess: Guess | null, steps: readonly Step[], saw: readonly boolean[]): number {
  let [seen, missed, stray, quiet] = [0, 0, 0, 0]
  for (const [k, step] of steps.entries()) {
    if (guess !== null && predicts(guess, step)) saw[k] ? seen++ : missed++
    else saw[k] ? stray++ : quiet++
  }
  return seen * logs.seen + missed * logs.missed + stray * logs.stray + quiet * logs.quiet
}

interface Posterior {
  sign: Sign
  guesses: Guess[]
  /** Of each guess; what is left is that of none of them. */
  p: Float64Array
  best: Guess | null
  bestP: number
}

function posteriorOf(n: number, sign: Sign, steps: readonly Step[]): Posterior {
  const saw = steps.map((s) => s.saw.has(sign.id))
  const guesses = guessesOf(n, sign)
  const prior = Math.log((1 - noneShare) / guesses.length)
  const weights = Float64Array.from(guesses, (g) => prior + fits(g, steps, saw))
  const none = Math.log(noneShare) + fits(null, steps, saw)
  const top = weights.reduce((a, b) => Math.max(a, b), none)
  let total = Math.exp(none - top)
  for (const w of weights) total += Math.exp(w - top)
  const p = weights.map((w) => Math.exp(w - top) / total)
  let [best, bestAt] = [none, -1]
  for (let i = weights.length - 1; i >= 0; i--) if (nth(weights, i) >= best) [best, bestAt] = [nth(weights, i), i]
  return {
    sign,
    guesses,
    p,
    best: bestAt < 0 ? null : (guesses[bestAt] as Guess),
    bestP: bestAt < 0 ? Math.exp(none - top) / total : nth(p, bestAt),
  }
}

const round4 = (x: number): number => Math.round(x * 1e4 + 1e-9) / 1e4

function told({ sign, best, bestP }: Posterior, pins: readonly string[], steps: readonly Step[]): InferredSign {
  const predicted = steps.map((s) => best !== null && predicts(best, s))
  const both = steps.filter((s, k) => predicted[k] && s.saw.has(sign.id)).length
  const set = (best?.set ?? []).map((i) => pins[i] as string)
  return {
    id: sign.id,
    pin: sign.count === 1 ? (set[0] ?? null) : null,
    pins: set,
    active: best?.active ?? null,
    p: round4(bestP),
    confidence: bestP >= sure && both >= 2 ? 'confirmed' : bestP >= likely ? 'seen' : 'assumed',
    disagree: steps.filter((s, k) => predicted[k] !== s.saw.has(sign.id)).map((s) => s.at),
  }
}

const entropy = (q: number): number => (q <= 0 || q >= 1 ? 0 : -q * Math.log2(q) - (1 - q) * Math.log2(1 - q))

/** Bits that a trial tells of a sign when this share of what is thought predicts it. */
export function gainOf(m: number): number {
  const { predicted, not } = seenIf
  return entropy(predicted * m + not * (1 - m)) - m * entropy(predicted) - (1 - m) * entropy(not)
}

/** The pin that tells most of the least sure sign when it goes high alone, after all low. */
function nextOf(
  posteriors: readonly Posterior[],
  pins: readonly string[],
  suspects: readonly string[],
): Inference['next'] {
  let open: Posterior | null = null
  for (const p of posteriors) if (p.bestP < sure && (open === null || p.bestP < open.bestP)) open = p
  if (open === null) return null
  const { guesses, p, sign } = open
  let best: { on: string; gain: number } | null = null
  for (const [i, pin] of pins.entries()) {
    if (suspects.includes(pin)) continue
    let m = 0
    for (const [g, { set, active }] of guesses.entries()) {
      const answers = active === 'low' ? set.some((x) => x !== i) : set.includes(i)
      if (answers) m += nth(p, g)
    }
    const gain = gainOf(m)
    if (gain >= leastGain && (best === null || gain > best.gain + tie)) best = { on: pin, gain }
  }
  return best && { sign: sign.id, on: [best.on] }
}

export function inputOf({ name, idle, held }: Press, pins: readonly string[] = []): InferredInput {
  const place = (pin: string) => (pins.includes(pin) ? pins.indexOf(pin) : pins.length)
  const changed = Object.keys(idle)
    .filter((pin) => Object.hasOwn(held, pin) && held[pin] !== idle[pin])
    .sort((a, b) => place(a) - place(b) || naturalOrder(a, b))
  const [pin = null] = changed.length === 1 ? changed : []
  return { name, pin, active: pin === null ? null : held[pin] === 1 ? 'high' : 'low', changed }
}

function sharedBy(signs: readonly InferredSign[], pins: readonly string[]): Inference['shared'] {
  return pins.flatMap((pin) => {
    const on = signs.filter((s) => s.pins.includes(pin)).map((s) => s.id)
    return on.length > 1 ? [{ pin, signs: on }] : []
  })
}

/** What the trials of a session say. Every count is from 1 to the number of pins. */
export function inferPins(
  pins: readonly string[],
  signs: readonly Sign[],
  trials: readonly Trial[],
  presses: readonly Press[],
): Inference {
  const { steps, suspects } = stepsOf(pins, trials)
  const posteriors = signs.map((sign) => posteriorOf(pins.length, sign, steps))
  const found = posteriors.map((p) => told(p, pins, steps))
  return {
    signs: found,
    inputs: presses.map((p) => inputOf(p, pins)),
    suspects,
    shared: sharedBy(found, pins),
    next: nextOf(posteriors, pins, suspects),
  }
}

/** Each pin's share in what is thought of a sign, and how it would show there. */
export function sharesOf(
  pins: readonly string[],
  sign: Sign,
  trials: readonly Trial[],
): { pin: string; p: number; active: 'high' | 'low' | null }[] {
  const { guesses, p } = posteriorOf(pins.length, sign, stepsOf(pins, trials).steps)
  return pins.map((pin, i) => {
    const by = { high: 0, low: 0, edge: 0 }
    for (const [g, { set, active }] of guesses.entries()) if (set.includes(i)) by[active ?? 'edge'] += nth(p, g)
    const total = by.high + by.low + by.edge
    return { pin, p: total, active: sign.kind === 'edge' ? null : by.high >= by.low ? 'high' : 'low' }
  })
}

const level = z.union([z.literal(0), z.literal(1)])
const Request = z
  .object({
    pins: z.array(z.string()).max(200),
    signs: z.array(
      z.object({
        id: z.string(),
        kind: z.unknown().superRefine((kind, context) => {
          if (kind === undefined) refuse(context, 'shape', [], 'The field kind is missing.')
          else if (kind !== 'edge' && kind !== 'level') refuse(context, 'kind', [], 'A sign is edge or level')
        }),
        count: z.number().nullish(),
      }),
    ),
    trials: z
      .array(z.object({ on: z.array(z.string()), saw: z.array(z.string()), reset: z.boolean().nullish() }))
      .max(10_000),
    presses: z
      .array(z.object({ name: z.string(), idle: z.record(z.string(), level), held: z.record(z.string(), level) }))
      .nullish(),
  })
  .superRefine(({ pins, signs, trials }, context) => {
    const n = pins.length
    for (const [i, { count }] of signs.entries()) {
      const k = count ?? 1
      if (!Number.isInteger(k) || k < 1 || k > n)
        refuse(context, 'range', ['signs', i, 'count'], `A count is a whole number from 1 to ${n}`)
      else if (setsOf(n, k) > mostSets)
        refuse(context, 'range', ['signs', i, 'count'], `${k} of ${n} pins are too many sets to compare`)
    }
    const known = { pins: new Set(pins), signs: new Set(signs.map((s) => s.id)) }
    for (const [i, trial] of trials.entries()) {
      for (const [j, pin] of trial.on.entries())
        if (!known.pins.has(pin)) refuse(context, 'pin', ['trials', i, 'on', j], `${pin} isn't among the pins`)
      for (const [j, sign] of trial.saw.entries())
        if (!known.signs.has(sign)) refuse(context, 'sign', ['trials', i, 'saw', j], `Sign '${sign}' isn't declared`)
    }
  })

/** `pins infer`: which pin does what, what tells most next. */
export function inferFromTrials(input: unknown): Outcome<Inference> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { pins, signs, trials, presses } = parsed.value
  return {
    ok: true,
    value: inferPins(
      pins,
      signs.map((s) => ({ id: s.id, kind: s.kind as SignKind, count: s.count ?? 1 })),
      trials.map((t) => ({ ...t, reset: t.reset === true })),
      presses ?? [],
    ),
  }
}
