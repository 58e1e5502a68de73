import { z } from 'zod'
import { inputCodes, type Outcome, parseInput } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'

/** A linear regulator and what it feeds: drop-out, bursts, heat (brief 04 §3.2). */
const Load = z.object({
  id: z.string().min(1),
  avgMA: z.number().nonnegative(),
  /** The average, when it is not said. */
  peakMA: z.number().nonnegative().nullish(),
  count: z.number().int().positive().nullish(),
})
const Regulator = z.object({
  vin: z.number().positive(),
  vout: z.number().positive(),
  dropoutV: z.number().nonnegative(),
  iMaxMA: z.number().positive(),
  /** From chip to air, in °C per W. */
  thetaJA: z.number().positive(),
  ambientC: z.number().nullish(),
  tjMaxC: z.number().nullish(),
  loads: z.array(Load).min(1),
})
export type RegulatorInput = z.output<typeof Regulator>

export type RegulatorReason = 'stop-dropout' | 'stop-peak' | 'stop-heat' | 'caution-heat' | 'caution-average'

export interface RegulatorCheck {
  /** mA. */
  avgMA: number
  peakMA: number
  /** What it turns into heat. */
  W: number
  /** Its junction, in °C. */
  tjC: number
  /** Average current at which the junction is 25 °C below its most, in mA; null where it drops nothing. */
  heatLimitMA: number | null
  /** What may still be added, in mA. */
  spareMA: number
  verdict: 'ok' | 'caution' | 'stop'
  reasons: RegulatorReason[]
  findings: Finding[]
}

const heatMarginC = 25
const usableShare = 0.8
const usualAmbientC = 25
const usualTjMaxC = 125
/** Sums of typed decimals: 5 − 3.9 is a hair below 1.1. */
const slack = 1e-9
const round = (x: number) => Math.round(x * 10) / 10

const said: Record<RegulatorReason, [message: string, next: string]> = {
  'stop-dropout': [
    'What goes in is too little for what has to come out.',
    'Feed it more, or take a regulator with a smaller drop-out.',
  ],
  'stop-peak': [
    'Bursts of the radio are more than it can give.',
    'Take a larger regulator; a capacitor only helps a little.',
  ],
  'stop-heat': ['It gets hotter than it may.', 'Feed it less voltage, cool it, or take a larger one.'],
  'caution-heat': ['It gets hot.', 'Give it air, or feed it less voltage.'],
  'caution-average': ['It runs near its most all the time.', 'Take a larger regulator.'],
}

function checked(input: RegulatorInput): RegulatorCheck {
  const { vin, vout, dropoutV, iMaxMA, thetaJA, loads } = input
  const ambientC = input.ambientC ?? usualAmbientC
  const tjMaxC = input.tjMaxC ?? usualTjMaxC
  const sum = (of: (l: RegulatorInput['loads'][number]) => number) =>
    loads.reduce((total, l) => total + of(l) * (l.count ?? 1), 0)
  const avgMA = sum((l) => l.avgMA)
  // All peaks at once: bursts of several radios do meet.
  const peakMA = sum((l) => l.peakMA ?? l.avgMA)
  const dropV = vin - vout
  const heatPerMA = (Math.max(0, dropV) * thetaJA) / 1000
  const W = (Math.max(0, dropV) * avgMA) / 1000
  const tjC = ambientC + W * thetaJA
  const heatLimitMA = heatPerMA > 0 ? (tjMaxC - heatMarginC - ambientC) / heatPerMA : null
  const reasons: RegulatorReason[] = []
  if (dropV < dropoutV - slack) reasons.push('stop-dropout')
  if (peakMA > iMaxMA + slack) reasons.push('stop-peak')
  if (tjC > tjMaxC + slack) reasons.push('stop-heat')
  else if (tjC > tjMaxC - heatMarginC + slack) reasons.push('caution-heat')
  if (avgMA > usableShare * iMaxMA + slack) reasons.push('caution-average')
  const stop = reasons.some((r) => r.startsWith('stop'))
  const most = Math.min(usableShare * iMaxMA, heatLimitMA ?? Number.POSITIVE_INFINITY)
  return {
    avgMA,
    peakMA,
    W,
    tjC,
    heatLimitMA,
    spareMA: Math.max(0, Math.min(most - avgMA, iMaxMA - peakMA)),
    verdict: stop ? 'stop' : reasons.length > 0 ? 'caution' : 'ok',
    reasons,
    findings: reasons.map((code) =>
      finding(
        code,
        code.startsWith('stop') ? 'error' : 'watch',
        said[code][0],
        `${round(dropV)} V to drop, ${round(avgMA)} mA on average, ${round(peakMA)} mA at most, ${round(tjC)} °C inside.`,
        said[code][1],
      ),
    ),
  }
}

/** `regulator`: is it good for what hangs on it? Voltages in V, currents in mA, temperatures in °C. Faults: `input`, `range`, `empty`. */
export function checkRegulator(input: unknown): Outcome<RegulatorCheck> {
  const parsed = parseInput(Regulator, input, inputCodes)
  return parsed.ok ? { ok: true, value: checked(parsed.value) } : parsed
}
