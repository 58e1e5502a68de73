import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { isKnownFamily } from '../families/families'
import { FamilyField } from './template'
import { naturalOrder, pinFacts } from './words'

/** A free pin for an added sensor, and whether the supply bears it (brief 03 §4). */

export type SpareWhy = 'used' | 'flash' | 'analog-only' | 'input-only' | 'no-pull' | 'no-pwm' | 'no-adc'
export interface SparePad {
  pin: string
  padMm: number
  /** On the module's edge, not a leg of the chip. */
  edge: boolean
  /** To the nearest GND or 3V3 pad. */
  railMm: number
}
export interface SupplyBudget {
  regMa: number
  peakMa: number
  partsMa: readonly number[]
  vin: number
  meanMa: number
  ambientC: number
  thetaCW: number
}
export interface Budget {
  /** Milliamperes, to one decimal. */
  headroomMa: number
  /** Watts, to three decimals. */
  watts: number
  junctionC: number
  enough: boolean
}
export interface SparePins {
  ranked: { pin: string; score: number }[]
  excluded: { pin: string; why: SpareWhy }[]
  budget: Budget | null
}

interface Wanted {
  output: boolean
  analog: boolean
  pwm: boolean
  pullUp: boolean
}

function whyNot(
  words: ReadonlySet<string>,
  adc: boolean,
  want: Wanted,
  chip: { flashLines: 2 | 4; octal: boolean },
): SpareWhy | null {
  if (words.has('flash') || (words.has('flash4') && chip.flashLines !== 2) || (words.has('flash8') && chip.octal))
    return 'flash'
  if (words.has('aonly') && !want.analog) return 'analog-only'
  if (words.has('in') && want.output) return 'input-only'
  if (words.has('nopull') && want.pullUp) return 'no-pull'
  if (words.has('nopwm') && want.pwm) return 'no-pwm'
  return want.analog && !adc ? 'no-adc' : null
}

const minus: readonly [words: readonly string[], points: number][] = [
  [['tx', 'rx', 'log'], 40],
  [['usb'], 20],
  [['boot', 'high', 'low'], 30],
  [['dl0', 'dl1'], 10],
  [['r1'], 15],
  [['nopull'], 5],
]
const nearMm = 5
const mostForDistance = 15

function scoreOf(words: ReadonlySet<string>, { padMm, edge, railMm }: SparePad): number {
  let score = 100
  for (const [any, points] of minus) if (any.some((w) => words.has(w))) score -= points
  if (!edge) score -= 40
  else if (padMm < 1) score -= 15
  else if (padMm < 1.5) score -= 5
  return score - Math.min(mostForDistance, Math.max(0, Math.floor((railMm - nearMm) / 2)))
}

const round = (x: number, digits: number): number => {
  const scale = 10 ** digits
  return (Math.sign(x) * Math.round(Math.abs(x) * scale + 1e-9)) / scale || 0
}

/** Only so much of what a regulator is rated for is planned with. */
const planned = 0.8
const logicVolts = 3.3
const hottestC = 110

/** Headroom and heat of the unit's own 3.3 V regulator with the parts that are added. */
export function supplyBudget({ regMa, peakMa, partsMa, vin, meanMa, ambientC, thetaCW }: SupplyBudget): Budget {
  const parts = partsMa.reduce((a, b) => a + b, 0)
  const headroom = planned * regMa - peakMa - parts
  const watts = ((vin - logicVolts) * (meanMa + parts)) / 1000
  const junction = ambientC + watts * thetaCW
  return {
    headroomMa: round(headroom, 1),
    watts: round(watts, 3),
    junctionC: round(junction, 1),
    enough: headroom >= -1e-9 && junction <= hottestC + 1e-9,
  }
}

/** Milliamperes a capacitive dropper can give on average: 4·f·C·V̂ for a full wave, half of it for a half wave. */
export const dropperMa = (microfarads: number, volts: number, hz: number, fullWave: boolean): number =>
  (fullWave ? 4 : 2) * hz * microfarads * 1e-6 * volts * Math.SQRT2 * 1000

const positive = (n: number | null | undefined) => n !== null && n !== undefined && n >= 0
const amount = z.number().superRefine((n, context) => {
  if (!positive(n)) refuse(context, 'range', [], 'It cannot be below 0')
})
const Request = z
  .object({
    family: FamilyField,
    /** What it is for: input, output, analog, pwm, pull-up. */
    need: z.array(z.string()),
    used: z.array(z.string()),
    pads: z
      .array(
        z.object({ pin: z.string(), padMm: amount.nullish(), edge: z.boolean().nullish(), railMm: amount.nullish() }),
      )
      .max(200),
    budget: z
      .object({
        regMa: amount,
        peakMa: amount,
        partsMa: z.array(amount).max(100),
        vin: amount,
        meanMa: amount,
        ambientC: z.number(),
        thetaCW: amount,
      })
      .nullish(),
    flashLines: z.union([z.literal(2), z.literal(4)]).nullish(),
    octal: z.boolean().nullish(),
  })
  .superRefine(({ family, pads, used }, context) => {
    if (!isKnownFamily(family)) return
    for (const [i, { pin }] of pads.entries())
      if (!pinFacts(family, pin)) refuse(context, 'pin', ['pads', i, 'pin'], `${pin} doesn't exist on ${family}`)
    for (const [i, pin] of used.entries())
      if (!pinFacts(family, pin)) refuse(context, 'pin', ['used', i], `${pin} doesn't exist on ${family}`)
  })

/** `pins spare`: free pins by how well they suit, why others do not, and the supply. */
export function sparePins(input: unknown): Outcome<SparePins> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { family, need, used, pads, budget, flashLines, octal } = parsed.value
  const want: Wanted = {
    output: need.includes('output'),
    analog: need.includes('analog'),
    pwm: need.includes('pwm'),
    pullUp: need.some((n) => n.startsWith('pull')),
  }
  const out: SparePins = { ranked: [], excluded: [], budget: budget ? supplyBudget(budget) : null }
  for (const pad of pads) {
    const facts = pinFacts(family, pad.pin)
    if (!facts) continue
    const why = used.includes(pad.pin)
      ? 'used'
      : whyNot(facts.words, facts.adcVolts !== null, want, { flashLines: flashLines ?? 4, octal: octal === true })
    if (why) out.excluded.push({ pin: pad.pin, why })
    else
      out.ranked.push({
        pin: pad.pin,
        score: scoreOf(facts.words, {
          pin: pad.pin,
          padMm: pad.padMm ?? 1.5,
          edge: pad.edge ?? true,
          railMm: pad.railMm ?? nearMm,
        }),
      })
  }
  out.ranked.sort((a, b) => b.score - a.score || naturalOrder(a.pin, b.pin))
  out.excluded.sort((a, b) => naturalOrder(a.pin, b.pin))
  return { ok: true, value: out }
}
