import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { isKnownFamily, type KnownFamily } from '../families/families'
import { FamilyField } from './template'
import { naturalOrder, pinFacts } from './words'

/** Which pins to drive, in which order and groups, so that few trials find what is unknown (brief 03 §3). */

export const powers = ['adapter', 'rail', 'mains'] as const
export type ProbePower = (typeof powers)[number]
export const hazardKinds = ['latching', 'bridge', 'motor', 'heater'] as const
export type Hazard = (typeof hazardKinds)[number]
export type ProbeMethod = 'single' | 'code' | 'halving'
export type ExcludedWhy = 'known' | 'flash' | 'analog-only' | 'input-only' | 'console' | 'usb' | 'moves-by-itself'

/** What can be seen of a unit that is powered this way. */
const visibleWith: Record<ProbePower, readonly string[]> = {
  adapter: ['led', 'bright'],
  rail: ['led', 'bright', 'click'],
  mains: ['led', 'bright', 'click', 'load'],
}

export interface ProbeRequest {
  family: KnownFamily
  pins: readonly string[]
  known: readonly string[]
  moving: readonly string[]
  power: ProbePower
  unknown: readonly { sign: string; count: number }[]
  hazards: readonly string[]
  noMotor: boolean
  flashLines: 2 | 4
  octal: boolean
}

export interface ProbePlan {
  excluded: { pin: string; why: ExcludedWhy }[]
  candidates: string[]
  assign: { n: number; pin: string }[]
  method: ProbeMethod
  groups: string[][]
  /** To two decimals. */
  expectedTrials: number
  visible: string[]
  hidden: string[]
  steps: string[]
}

type Chip = Pick<ProbeRequest, 'family' | 'flashLines' | 'octal'>

/** Why a pin is none to drive, as far as its family says; null where it may be. */
export function chipKeeps(
  pin: string,
  { family, flashLines, octal }: Chip,
): Exclude<ExcludedWhy, 'known' | 'moves-by-itself'> | null {
  const words = pinFacts(family, pin)?.words
  if (!words) return null
  if (words.has('flash') || (words.has('flash4') && flashLines !== 2) || (words.has('flash8') && octal)) return 'flash'
  if (words.has('aonly')) return 'analog-only'
  if (words.has('in')) return 'input-only'
  if (words.has('tx') || words.has('rx') || words.has('log')) return 'console'
  return words.has('usb') ? 'usb' : null
}

function whyNot(pin: string, request: ProbeRequest): ExcludedWhy | null {
  if (request.known.includes(pin)) return 'known'
  return chipKeeps(pin, request) ?? (request.moving.includes(pin) ? 'moves-by-itself' : null)
}

/** Plain pins first, then those that pulse at power-up or decide about download, straps last. */
function rankOf(pin: string, family: KnownFamily): number {
  const words = pinFacts(family, pin)?.words ?? new Set<string>()
  if (['boot', 'high', 'low'].some((w) => words.has(w))) return 2
  return ['r1', 'dl0', 'dl1'].some((w) => words.has(w)) ? 1 : 0
}

/** Two relays may be the two windings of one motor: on mains they are never driven together unless somebody says that there is none. */
function methodOf({ hazards, power, unknown, noMotor }: ProbeRequest, n: number): ProbeMethod {
  const clicks = unknown.filter((u) => u.sign === 'click').reduce((sum, u) => sum + u.count, 0)
  if (hazards.length > 0 || n <= 4 || (power === 'mains' && clicks >= 2 && !noMotor)) return 'single'
  return unknown.every((u) => u.count === 1) ? 'code' : 'halving'
}

/**
 * Trials until every one of these places is found: the first half is driven, the half that answers is followed to one pin, silent
 * halves are dropped, and it begins anew with what remains; it ends when as many remain as are missing.
 */
export function halvingTrials(n: number, places: readonly number[]): number {
  const wanted = new Set(places)
  let left = Array.from({ length: n }, (_, i) => i)
  let trials = 0
  while (wanted.size > 0 && left.length > wanted.size) {
    let here = left
    while (here.length > 1) {
      // What was silent is gone: as many may be left as are missing.
      const half = here.slice(0, Math.floor(here.length / 2))
      trials++
      if (half.some((p) => wanted.has(p))) here = half
      else {
        here = here.slice(half.length)
        left = left.filter((p) => !half.includes(p))
        if (left.length === wanted.size) return trials
      }
    }
    const [found] = here as [number]
    wanted.delete(found)
    left = left.filter((p) => p !== found)
  }
  return trials
}

const meanOverPlacements = new Map<string, number>()
const mostPlacements = 200_000

function choose(n: number, k: number): number {
  let out = 1
  for (let i = 0; i < k; i++) out = (out * (n - i)) / (i + 1)
  return Math.round(out)
}

/** Mean number of trials over all placements of `d` among `n`. */
function halvingMean(n: number, d: number): number {
  if (d >= n || d === 0) return 0
  const key = `${n} ${d}`
  const known = meanOverPlacements.get(key)
  if (known !== undefined) return known
  let [sum, count] = [0, 0]
  const places: number[] = []
  const place = (from: number) => {
    if (places.length === d) {
      sum += halvingTrials(n, places)
      count++
      return
    }
    for (let i = from; i <= n - (d - places.length); i++) {
      places.push(i)
      place(i + 1)
      places.pop()
    }
  }
  place(0)
  meanOverPlacements.set(key, sum / count)
  return sum / count
}

const round2 = (x: number): number => Math.round(x * 100 + 1e-9) / 100

function groupsOf(method: ProbeMethod, candidates: readonly string[]): string[][] {
  const n = candidates.length
  if (method === 'single') return candidates.map((p) => [p])
  if (method === 'halving') return [candidates.slice(0, Math.floor(n / 2))]
  const trials = Math.ceil(Math.log2(n + 1))
  return Array.from({ length: trials }, (_, j) => candidates.filter((_, i) => ((i + 1) >> j) & 1))
}

function expectedOf(method: ProbeMethod, n: number, d: number): number {
  if (method === 'code') return Math.ceil(Math.log2(n + 1))
  return round2(method === 'single' ? (d * (n + 1)) / (d + 1) : halvingMean(n, d))
}

const gatesBefore: Record<ProbePower, readonly string[]> = {
  adapter: ['gate-no-mains'],
  rail: ['gate-no-mains', 'gate-current-limit'],
  mains: ['gate-unplugged', 'gate-case-closed'],
}
const work = ['watch-levels', 'press-inputs', 'enter-assignment', 'drive', 'restore']

/** The plan for a request that has something to try. */
export function probePlan(request: ProbeRequest): ProbePlan {
  const excluded = request.pins
    .flatMap((pin) => {
      const why = whyNot(pin, request)
      return why ? [{ pin, why }] : []
    })
    .sort((a, b) => naturalOrder(a.pin, b.pin))
  const candidates = request.pins
    .filter((pin) => excluded.every((e) => e.pin !== pin))
    .sort((a, b) => rankOf(a, request.family) - rankOf(b, request.family) || naturalOrder(a, b))
  const method = methodOf(request, candidates.length)
  const missing = request.unknown.reduce((sum, u) => sum + u.count, 0)
  const shown = visibleWith[request.power]
  return {
    excluded,
    candidates,
    assign: candidates.map((pin, i) => ({ n: i + 1, pin })),
    method,
    groups: groupsOf(method, candidates),
    expectedTrials: expectedOf(method, candidates.length, Math.min(missing, candidates.length)),
    visible: request.unknown.map((u) => u.sign).filter((s) => shown.includes(s)),
    hidden: request.unknown.map((u) => u.sign).filter((s) => !shown.includes(s)),
    steps: [...gatesBefore[request.power], ...work, ...(request.power === 'mains' ? ['gate-unplugged'] : [])],
  }
}

const Request = z
  .object({
    family: FamilyField,
    pins: z.array(z.string()).max(200),
    known: z.array(z.object({ pin: z.string() })).nullish(),
    moving: z.array(z.string()).nullish(),
    power: z.unknown().superRefine((power, context) => {
      if (power === undefined) refuse(context, 'shape', [], 'The field power is missing.')
      else if (!(powers as readonly unknown[]).includes(power))
        refuse(context, 'power', [], 'Power is adapter, rail or mains')
    }),
    unknown: z.array(
      z.object({
        sign: z.string(),
        count: z.number().superRefine((n, context) => {
          if (!Number.isInteger(n) || n < 1) refuse(context, 'range', [], 'A count is a whole number from 1')
        }),
      }),
    ),
    hazards: z.array(z.string()).nullish(),
    noMotor: z.boolean().nullish(),
    flashLines: z.union([z.literal(2), z.literal(4)]).nullish(),
    octal: z.boolean().nullish(),
  })
  .superRefine((input, context) => {
    if (!isKnownFamily(input.family)) return
    const exists = (pin: string, path: PropertyKey[]) => {
      if (!pinFacts(input.family, pin)) refuse(context, 'pin', path, `${pin} doesn't exist on ${input.family}`)
    }
    for (const [i, pin] of input.pins.entries()) exists(pin, ['pins', i])
    for (const [i, { pin }] of (input.known ?? []).entries()) exists(pin, ['known', i, 'pin'])
    for (const [i, pin] of (input.moving ?? []).entries()) exists(pin, ['moving', i])
    if (input.unknown.length === 0) refuse(context, 'range', ['unknown'], 'Nothing is said to be unknown')
  })

/** `pins plan`: what to drive, in which order, and how many trials that takes. */
export function planProbe(input: unknown): Outcome<ProbePlan> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { value } = parsed
  const request: ProbeRequest = {
    family: value.family,
    pins: [...new Set(value.pins)],
    known: (value.known ?? []).map((k) => k.pin),
    moving: value.moving ?? [],
    power: value.power as ProbePower,
    unknown: value.unknown,
    hazards: value.hazards ?? [],
    noMotor: value.noMotor === true,
    flashLines: value.flashLines ?? 4,
    octal: value.octal === true,
  }
  const left = request.pins.filter((pin) => whyNot(pin, request) === null).length
  if (left === 0) return { ok: false, faults: [{ code: 'empty', path: '/pins', message: 'No pin is left to try' }] }
  const missing = request.unknown.reduce((sum, u) => sum + u.count, 0)
  if (methodOf(request, left) === 'halving' && choose(left, Math.min(missing, left)) > mostPlacements)
    return { ok: false, faults: [{ code: 'range', path: '/unknown', message: 'Too many look-alikes for a plan' }] }
  return { ok: true, value: probePlan(request) }
}
