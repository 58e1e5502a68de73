import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { byText } from '../edge/order'
import { roundTo } from '../edge/round'
import { naturalOrder } from '../pins/words'

/** Which channel of a lamp is what: colours by looking, the scheme of a tunable white by a few set points (brief 03 §5). */

export type WhiteScheme = 'pair' | 'temp-bright'
export interface SetPoint {
  a: number
  b: number
}
export interface WhiteObservation extends SetPoint {
  /** Any steady number of brightness. */
  lux: number
  /** 0 cool, 1 warm; null where nobody said. */
  tone: number | null
}
export interface WhiteLamp {
  scheme: WhiteScheme
  swap: boolean
  invertA: boolean
  invertB: boolean
}
export interface WhiteInference {
  lamp: WhiteLamp
  error: number
  margin: number
  sure: boolean
  next: SetPoint | null
}

const corners: readonly SetPoint[] = [
  { a: 0, b: 0 },
  { a: 1, b: 0 },
  { a: 0, b: 1 },
  { a: 1, b: 1 },
]
const both = [false, true] as const
export const whiteLamps: readonly WhiteLamp[] = (['pair', 'temp-bright'] as const).flatMap((scheme) =>
  both.flatMap((swap) => both.flatMap((invertA) => both.map((invertB) => ({ scheme, swap, invertA, invertB })))),
)
const inversions = (l: WhiteLamp): number => Number(l.invertA) + Number(l.invertB)

/** Light and tone that such a lamp shows at a set point; no tone where it is dark. */
export function showsAt(
  { scheme, swap, invertA, invertB }: WhiteLamp,
  { a, b }: SetPoint,
): { light: number; tone: number | null } {
  const [first, second] = [invertA ? 1 - a : a, invertB ? 1 - b : b]
  const [u, v] = swap ? [second, first] : [first, second]
  const light = scheme === 'pair' ? u + v : v
  return { light, tone: light === 0 ? null : scheme === 'pair' ? v / light : u }
}

function errorOf(lamp: WhiteLamp, seen: readonly WhiteObservation[]): number {
  const shown = seen.map((o) => showsAt(lamp, o))
  const [mostLux, mostLight] = [Math.max(...seen.map((o) => o.lux)), Math.max(...shown.map((s) => s.light))]
  let error = 0
  for (const [i, { lux, tone }] of seen.entries()) {
    const { light, tone: predicted } = shown[i] as (typeof shown)[number]
    error += (lux / mostLux - (mostLight === 0 ? 0 : light / mostLight)) ** 2
    if (tone !== null) error += predicted === null ? 1 : (tone - predicted) ** 2
  }
  return error
}

const alike = 1e-9
const leastMargin = 0.1
const mostErrorEach = 0.05
const noTone = 0.5

/** The corner at which the two best differ most. */
function cornerApart(one: WhiteLamp, other: WhiteLamp): SetPoint | null {
  let [best, most]: [SetPoint | null, number] = [null, 0]
  for (const corner of corners) {
    const [x, y] = [showsAt(one, corner), showsAt(other, corner)]
    const apart = Math.abs(x.light - y.light) + Math.abs((x.tone ?? noTone) - (y.tone ?? noTone))
    if (apart > most + alike) [best, most] = [corner, apart]
  }
  return best
}

/** Of sixteen lamps the one that fits best. At least two observations, and some light in them. */
export function inferWhite(seen: readonly WhiteObservation[]): WhiteInference {
  const tried = whiteLamps.map((lamp, order) => ({ lamp, order, error: errorOf(lamp, seen) }))
  const first = (list: typeof tried) => {
    const least = Math.min(...list.map((t) => t.error))
    return list
      .filter((t) => t.error <= least + alike)
      .sort((x, y) => inversions(x.lamp) - inversions(y.lamp) || x.order - y.order)[0] as (typeof tried)[number]
  }
  const best = first(tried)
  const second = first(tried.filter((t) => t !== best))
  const margin = second.error - best.error
  const sure = margin >= leastMargin && best.error <= mostErrorEach * seen.length
  return { lamp: best.lamp, error: best.error, margin, sure, next: sure ? null : cornerApart(best.lamp, second.lamp) }
}

export interface ColoursFound {
  colours: { colour: string; pin: string }[]
  conflicts: { colour: string; pins: string[] }[]
  /** One channel that was seen in several colours. */
  double: { pin: string; colours: string[] }[]
}

/** What was seen of each channel alone: a colour of one pin is found, one of several is a conflict. */
export function coloursOf(seen: readonly { pin: string; saw: string }[]): ColoursFound {
  const lit = seen.filter((s) => s.saw !== 'nothing')
  const names = [...new Set(lit.map((s) => s.saw))].sort(byText)
  const out: ColoursFound = { colours: [], conflicts: [], double: [] }
  for (const colour of names) {
    const pins = [...new Set(lit.filter((s) => s.saw === colour).map((s) => s.pin))].sort(naturalOrder)
    if (pins.length === 1) out.colours.push({ colour, pin: pins[0] as string })
    else out.conflicts.push({ colour, pins })
  }
  for (const pin of [...new Set(lit.map((s) => s.pin))].sort(naturalOrder)) {
    const colours = [...new Set(lit.filter((s) => s.pin === pin).map((s) => s.saw))].sort(byText)
    if (colours.length > 1) out.double.push({ pin, colours })
  }
  return out
}

const tones = { cool: 0, neutral: 0.5, warm: 1 } as const
const duty = z.number().superRefine((d, context) => {
  if (d < 0 || d > 1) refuse(context, 'range', [], 'A duty must be between 0 and 1')
})
const Observation = z.object({
  a: duty,
  b: duty,
  lux: z.number().superRefine((lux, context) => {
    if (lux < 0) refuse(context, 'range', [], 'Brightness cannot be below 0')
  }),
  tone: z.union([z.enum(['cool', 'neutral', 'warm']), z.number()]).nullish(),
})
const Request = z.object({
  white: z
    .object({
      a: z.string(),
      b: z.string(),
      obs: z
        .array(Observation)
        .max(10_000)
        .superRefine((obs, context) => {
          if (obs.length < 2) refuse(context, 'few', [], 'At least two observations are needed')
          else if (obs.every((o) => !(o?.lux > 0))) refuse(context, 'dark', [], 'No observation shows any light')
        }),
    })
    .nullish(),
  colours: z.array(z.object({ pin: z.string(), saw: z.string() })).nullish(),
})

export interface LightsInference extends ColoursFound {
  white:
    | ({
        scheme: WhiteScheme
        invert: string[]
        error: number
        margin: number
        sure: boolean
        next: SetPoint | null
      } & ({ cool: string; warm: string } | { temp: string; bright: string }))
    | null
}

/** `lights infer`: scheme, swap and inversion of a tunable white, and which channel is which colour. */
export function inferLights(input: unknown): Outcome<LightsInference> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { white, colours } = parsed.value
  const found = coloursOf(colours ?? [])
  if (!white) return { ok: true, value: { white: null, ...found } }
  const { lamp, error, margin, sure, next } = inferWhite(
    white.obs.map((o) => ({ ...o, tone: typeof o.tone === 'string' ? tones[o.tone] : (o.tone ?? null) })),
  )
  const [u, v] = lamp.swap ? [white.b, white.a] : [white.a, white.b]
  const pins = lamp.scheme === 'pair' ? { cool: u, warm: v } : { temp: u, bright: v }
  const invert = [...(lamp.invertA ? [white.a] : []), ...(lamp.invertB ? [white.b] : [])].sort(naturalOrder)
  return {
    ok: true,
    value: {
      white: { scheme: lamp.scheme, ...pins, invert, error: roundTo(error, 4), margin: roundTo(margin, 4), sure, next },
      ...found,
    },
  }
}
