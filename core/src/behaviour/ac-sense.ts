import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { roundTo } from '../edge/round'

/** A mains input that gives pulses while it is pressed: how many count as a press (brief 03 §8). */

export interface AcSenseRequest {
  hz: readonly number[]
  pulsesPerCycle: number
  edges: number
  windowMs: number
  deadMs: number
  noise: readonly number[]
  pressMaxMs: number
}
export interface AtFrequency {
  hz: number
  spacingMs: number
  expected: number
  min: number
  max: number
  /** Jitter decides how many pulses the dead time swallows. */
  boundary: boolean
}
export interface AcSense {
  perHz: AtFrequency[]
  noiseMax: number
  separable: boolean
  threshold: number | null
  bestMs: number | null
  sureMs: number | null
  worstMs: number | null
  needWindowMs: number | null
  lockoutMs: number
}

const hair = 1e-9
const onBoundary = 0.02
const leastApart = 3
const down = (x: number) => Math.floor(x + hair)
const up = (x: number) => Math.ceil(x - hair)

interface Spacing {
  told: AtFrequency
  short: number
  long: number
}

function spacingOf(hz: number, { pulsesPerCycle, edges, windowMs, deadMs }: AcSenseRequest): Spacing {
  const period = 1000 / (hz * pulsesPerCycle * edges)
  const dead = deadMs / period
  const near = Math.round(dead)
  const boundary = deadMs > 0 && near >= 1 && Math.abs(dead - near) <= onBoundary + hair
  const short = (boundary ? near : Math.max(1, up(dead))) * period
  const long = boundary ? short + period : short
  return {
    short,
    long,
    told: {
      hz,
      spacingMs: roundTo(short, 3),
      expected: roundTo(windowMs / short, 2),
      min: down(windowMs / long),
      max: up(windowMs / short),
      boundary,
    },
  }
}

/** Counts per window with the button pressed and released, and what they decide. */
export function senseMains(request: AcSenseRequest): AcSense {
  const { windowMs, pressMaxMs } = request
  const spacings = request.hz.map((hz) => spacingOf(hz, request))
  const noiseMax = Math.max(0, ...request.noise)
  const least = Math.min(...spacings.map((s) => s.told.min))
  const separable = least - noiseMax >= leastApart
  const threshold = separable ? Math.floor((noiseMax + least) / 2) + 1 : null
  const longest = Math.max(...spacings.map((s) => s.long))
  const shortest = Math.min(...spacings.map((s) => s.short))
  return {
    perHz: spacings.map((s) => s.told),
    noiseMax,
    separable,
    threshold,
    bestMs: threshold === null ? null : roundTo(threshold * shortest, 1),
    sureMs: threshold === null ? null : roundTo(2 * threshold * longest, 1),
    worstMs: threshold === null ? null : 2 * windowMs,
    needWindowMs: separable ? null : up((longest * (noiseMax + leastApart)) / 10) * 10,
    lockoutMs: up((pressMaxMs + windowMs) / windowMs) * windowMs,
  }
}

const ranged = (holds: (n: number) => boolean, message: string) =>
  z.number().superRefine((n, context) => {
    if (!holds(n)) refuse(context, 'range', [], message)
  })
const oneOrTwo = ranged((n) => n === 1 || n === 2, 'It is 1 or 2')
const notBelow0 = ranged((n) => n >= 0, 'It cannot be below 0')
const Request = z.object({
  hz: z
    .array(ranged((n) => n >= 40 && n <= 70, 'A mains frequency is between 40 and 70 Hz'))
    .max(100)
    .superRefine((hz, context) => {
      if (hz.length === 0) refuse(context, 'range', [], 'At least one frequency is needed')
    }),
  pulsesPerCycle: oneOrTwo,
  edges: oneOrTwo.nullish(),
  windowMs: ranged((n) => n > 0, 'The window must be above 0 ms'),
  deadMs: notBelow0.nullish(),
  noise: z.array(notBelow0).max(10_000).nullish(),
  pressMaxMs: notBelow0.nullish(),
})
const usualPressMs = 1500

/** `ac-sense`: threshold, shortest sure press, lock-out. */
export function acSense(input: unknown): Outcome<AcSense> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { edges, deadMs, noise, pressMaxMs, ...given } = parsed.value
  return {
    ok: true,
    value: senseMains({
      ...given,
      edges: edges ?? 1,
      deadMs: deadMs ?? 0,
      noise: noise ?? [],
      pressMaxMs: pressMaxMs ?? usualPressMs,
    }),
  }
}
