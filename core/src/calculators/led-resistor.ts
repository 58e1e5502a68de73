import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refusal, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { lastOf } from '../edge/nth'

/** A resistor in front of an LED: R = (Vs − n·Vf)/I, taken from a series of preferred values (IEC 60063; brief 04 §3.2). */

const twoDigits = {
  E6: [10, 15, 22, 33, 47, 68],
  E12: [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82],
  E24: [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91],
} as const
const names = ['E6', 'E12', 'E24', 'E48', 'E96'] as const
type SeriesName = (typeof names)[number]
/** Values of one decade, from 1 to below 10. */
function decadeOf(name: SeriesName): number[] {
  if (name !== 'E48' && name !== 'E96') return twoDigits[name].map((v) => v / 10)
  const steps = name === 'E48' ? 48 : 96
  return Array.from({ length: steps }, (_, i) => Math.round(10 ** (i / steps) * 100) / 100)
}
const decades = [0.1, 1, 10, 100, 1000, 10_000, 100_000, 1_000_000]
const valuesOf = (name: SeriesName): number[] => decades.flatMap((d) => decadeOf(name).map((v) => v * d))

const slack = 1e-9
const ratings = [0.125, 0.25, 0.5, 1, 2, 3, 5]
const powerMargin = 2
const leastHeadroomV = 0.3
/** A resistor is no way to run an LED from the mains. */
const mostSupplyV = 60

export type LedWarning = 'caution-pin-limit' | 'caution-low-headroom'
export interface LedResistor {
  exactOhm: number
  ohm: number
  mA: number
  mAmin: number
  mAmax: number
  W: number
  /** The smallest usual rating of twice that; null above 5 W. */
  ratingW: number | null
  totalMA: number
  warnings: LedWarning[]
  findings: Finding[]
}

const said: Record<LedWarning, [message: string, next: string]> = {
  'caution-pin-limit': ['It draws more than the pin should give.', 'Use less current, or a transistor.'],
  'caution-low-headroom': [
    'Less than 0.3 V is left over the resistor: a small change of the supply changes the light a lot.',
    'Use a higher supply, or fewer in a row.',
  ],
}

const above0 = (what: string) =>
  z.number().superRefine((n, context) => {
    if (n <= 0) refuse(context, 'range', [], `${what} must be above 0.`)
  })
const whole = (what: string) =>
  z.number().superRefine((n, context) => {
    if (!Number.isInteger(n) || n < 1) refuse(context, 'range', [], `${what} is a whole number from 1.`)
  })
const Request = z.object({
  supplyV: above0('The supply').superRefine((v, context) => {
    if (v > mostSupplyV) refuse(context, 'range', [], 'Above 60 V a resistor is no way to run an LED.')
  }),
  vf: above0('The forward voltage'),
  mA: above0('The current'),
  series: whole('series').nullish(),
  parallel: whole('parallel').nullish(),
  eSeries: z.enum(names).nullish(),
  choose: z.enum(['up', 'nearest']).nullish(),
  tolPct: z
    .number()
    .superRefine((t, context) => {
      if (t < 0 || t >= 100) refuse(context, 'range', [], 'A tolerance is from 0 to below 100 %.')
    })
    .nullish(),
  pinLimitMA: above0('The limit of the pin').nullish(),
})

function choose(exact: number, name: SeriesName, how: 'up' | 'nearest'): number | null {
  const values = valuesOf(name)
  if (how === 'up') return values.find((v) => v >= exact * (1 - slack)) ?? null
  if (exact > lastOf(values) * (1 + slack)) return null
  return values.reduce((best, v) =>
    Math.abs(Math.log(v / exact)) < Math.abs(Math.log(best / exact)) - slack ? v : best,
  )
}

/** `led-resistor`. Faults: `range` also where the supply is below the LEDs, and where no value is high enough. */
export function ledResistor(input: unknown): Outcome<LedResistor> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { supplyV, vf, mA, series, parallel, eSeries, choose: how, tolPct, pinLimitMA } = parsed.value
  const over = supplyV - (series ?? 1) * vf
  if (over <= 0) return refusal('range', '/vf', 'The supply is not above what the LEDs need.')
  const exactOhm = over / (mA / 1000)
  const ohm = choose(exactOhm, eSeries ?? 'E12', how ?? 'up')
  if (ohm === null) return refusal('range', '/mA', 'No value of this series is high enough.')
  const tolerance = (tolPct ?? 5) / 100
  const flows = (over / ohm) * 1000
  const W = (flows / 1000) ** 2 * ohm
  const totalMA = flows * (parallel ?? 1)
  const warnings: LedWarning[] = [
    ...(over < leastHeadroomV ? (['caution-low-headroom'] as const) : []),
    ...(pinLimitMA !== null && pinLimitMA !== undefined && totalMA > pinLimitMA * (1 + slack)
      ? (['caution-pin-limit'] as const)
      : []),
  ]
  return {
    ok: true,
    value: {
      exactOhm,
      ohm,
      mA: flows,
      mAmin: flows / (1 + tolerance),
      mAmax: flows / (1 - tolerance),
      W,
      ratingW: ratings.find((r) => r >= powerMargin * W * (1 - slack)) ?? null,
      totalMA,
      warnings,
      findings: warnings.map((code) => finding(code, 'watch', said[code][0], '', said[code][1])),
    },
  }
}
