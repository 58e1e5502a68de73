import { z } from 'zod'
import { type Outcome, parseInput, refusal, refuse, strictCodes } from '../edge/fault'

/** Two resistors between a 5 V adapter's TX and a 3.3 V RX: Vout = Vin·Rb/(Rt+Rb), and is it still fast enough. */

const decades = [100, 1000, 10_000, 100_000]
/** Preferred values of IEC 60063, two digits. */
const series = {
  E12: [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82],
  E24: [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91],
} as const
export type Series = keyof typeof series
export const seriesNames = Object.keys(series) as Series[]
const ohmsOf = (name: Series) => decades.flatMap((d) => series[name].map((v) => (v * d) / 10))

const number = (least: number, above: boolean, most: number, sentence: string) =>
  z.number().superRefine((n, context) => {
    if ((above ? n <= least : n < least) || n > most) refuse(context, 'range', [], sentence)
  })
const vin = number(0, false, 24, 'The incoming voltage must be 0 to 24 V.')
const ohms = number(0, true, 1e9, 'A resistor must be above 0 Ω.')

export const DividerInput = z.discriminatedUnion('mode', [
  z.object({
    mode: z.literal('check'),
    vin,
    rTop: ohms,
    rBottom: ohms,
    vdd: number(0, true, 24, 'The supply of the part must be above 0 V.').default(3.3),
    baud: number(0, true, 1e8, 'The rate must be above 0.').default(115200),
    loadPf: number(0, false, 1e9, 'The capacitance must be 0 pF or more.').default(50),
  }),
  z
    .object({
      mode: z.literal('design'),
      vin,
      vout: number(0, true, 24, 'The wanted voltage must be above 0 V.'),
      series: z
        .string()
        .superRefine((name, context) => {
          if (!Object.hasOwn(series, name))
            refuse(context, 'range', [], `The series must be ${seriesNames.join(' or ')}.`)
        })
        .default('E24'),
      minTotal: number(0, false, 1e9, 'The smallest sum must be 0 Ω or more.').default(1000),
      maxTotal: number(0, true, 1e9, 'The largest sum must be above 0 Ω.').default(10_000),
    })
    .superRefine((d, context) => {
      if (d.vout >= d.vin) refuse(context, 'range', ['vout'], 'The wanted voltage must be below the incoming one.')
    }),
])

export type DividerVerdict = 'ok' | 'too_high' | 'too_low' | 'too_slow'
export interface DividerCheck {
  vout: number
  /** Source resistance seen by the pin, in Ω. */
  rth: number
  riseNs: number
  bitNs: number
  risePct: number
  currentMa: number
  verdict: DividerVerdict
}
export interface DividerPair {
  rTop: number
  rBottom: number
  vout: number
  errorPct: number
  total: number
}

/** Seen in the sentence on the page. */
export const dividerWords: Record<DividerVerdict, string> = {
  ok: 'High enough to be read, low enough to harm nothing, fast enough for this rate.',
  too_high: 'More than 0.3 V above the supply of the part: it would be damaged.',
  too_low: 'Below 0.75 of the supply: the part may not read it as high.',
  too_slow: 'The edges take more than a fifth of a bit: use smaller resistors, or a lower rate.',
}

function check(d: Extract<z.infer<typeof DividerInput>, { mode: 'check' }>): DividerCheck {
  const total = d.rTop + d.rBottom
  const vout = (d.vin * d.rBottom) / total
  const rth = (d.rTop * d.rBottom) / total
  // 10–90 % rise of an RC is 2.2·R·C; Ω·pF = 10⁻³ ns.
  const riseNs = 2.2 * rth * d.loadPf * 1e-3
  const bitNs = 1e9 / d.baud
  const risePct = (100 * riseNs) / bitNs
  const verdict = vout > d.vdd + 0.3 ? 'too_high' : vout < 0.75 * d.vdd ? 'too_low' : risePct > 20 ? 'too_slow' : 'ok'
  return { vout, rth, riseNs, bitNs, risePct, currentMa: (1000 * d.vin) / total, verdict }
}

/** The three pairs of a series that come nearest to the wanted voltage; of equal ones, that nearest to 3 kΩ together. */
function design(d: Extract<z.infer<typeof DividerInput>, { mode: 'design' }>): DividerPair[] {
  const values = ohmsOf(d.series as Series)
  const pairs = values.flatMap((rTop) =>
    values.flatMap((rBottom): DividerPair[] => {
      const total = rTop + rBottom
      if (total < d.minTotal || total > d.maxTotal) return []
      const vout = (d.vin * rBottom) / total
      return [{ rTop, rBottom, vout, errorPct: (100 * (vout - d.vout)) / d.vout, total }]
    }),
  )
  const error = (p: DividerPair) => Math.round(Math.abs(p.errorPct) * 1e9) / 1e9
  const far = (p: DividerPair) => Math.abs(Math.log10(p.total / 3000))
  return pairs.sort((a, b) => error(a) - error(b) || far(a) - far(b) || a.rTop - b.rTop).slice(0, 3)
}

/** @returns the check, or `{ pairs }`; refusals `range`, `empty` (no pair within the sums), `missing`, `type` */
export function planDivider(input: unknown): Outcome<DividerCheck | { pairs: DividerPair[] }> {
  const parsed = parseInput(DividerInput, input, strictCodes)
  if (!parsed.ok) return parsed
  if (parsed.value.mode === 'check') return { ok: true, value: check(parsed.value) }
  const pairs = design(parsed.value)
  if (pairs.length === 0) return refusal('empty', '/minTotal', 'No pair of this series has such a sum.')
  return { ok: true, value: { pairs } }
}

/** The same check for values that the page already holds as numbers. */
export const checkDivider = (vin: number, rTop: number, rBottom: number, baud: number): DividerCheck =>
  check({ mode: 'check', vin, rTop, rBottom, vdd: 3.3, baud, loadPf: 50 })
export const designDivider = (vin: number, vout: number, name: Series): DividerPair[] =>
  design({ mode: 'design', vin, vout, series: name, minTotal: 1000, maxTotal: 10_000 })
