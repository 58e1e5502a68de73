import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'

/** What a pair of copper leads takes from a direct-current supply, and the fuse at the source (brief 07 §10). */
const Request = z
  .object({
    V: z.number().positive(),
    A: z.number().positive(),
    lengthM: z.number().positive(),
    areaMm2: z.number().positive().nullish(),
    awg: z.number().min(-3).max(40).nullish(),
    tempC: z.number().min(-40).max(150).nullish(),
    maxPct: z.number().positive().max(100).nullish(),
    cableA: z.number().positive().nullish(),
  })
  .superRefine((given, context) => {
    if (given.awg != null && !Number.isInteger(given.awg))
      refuse(context, 'range', ['awg'], 'A gauge is a whole number from −3 to 40.')
    else if (given.awg != null && given.areaMm2 != null)
      refuse(context, 'conflict', ['awg'], 'Give the area or the gauge, not both.')
    else if (given.awg == null && given.areaMm2 == null)
      refuse(context, 'input', ['areaMm2'], 'Give the area of the lead in mm², or its gauge.')
  })

export interface DcDrop {
  areaMm2: number
  /** Both leads together, in ohms. */
  ohm: number
  dropV: number
  dropPct: number
  lossW: number
  /** The least area that keeps the drop within `maxPct`. */
  minAreaMm2: number
  /** Amperes: at least 1.25 times the load, at most what the cable carries; null where nobody said. */
  fuse: { min: number; max: number | null }
  verdict: 'ok' | 'caution' | 'stop'
  /** Codes of the findings, stop before caution. */
  reasons: string[]
  findings: Finding[]
}

const usual = { tempC: 20, maxPct: 3 }
/** Ω·mm²/m of copper at 20 °C, and its rise per kelvin. */
const copper = { resistivity: 0.0175, perKelvin: 0.00393 }
const fuseShare = 1.25

/** mm² of a solid conductor of a gauge −3 (0000) to 40. */
export const areaOfGauge = (awg: number): number => 0.012668 * 92 ** ((36 - awg) / 19.5)

/** `dc-drop`. Faults: `input` (also neither area nor gauge), `range`, `conflict` (both). */
export function dcDrop(input: unknown): Outcome<DcDrop> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { V, A, lengthM, areaMm2, awg, tempC, maxPct, cableA } = parsed.value
  const area = areaMm2 ?? areaOfGauge(awg as number)
  const ohmMm2 = 2 * lengthM * copper.resistivity * (1 + copper.perKelvin * ((tempC ?? usual.tempC) - 20))
  const most = maxPct ?? usual.maxPct
  const ohm = ohmMm2 / area
  const dropV = ohm * A
  const dropPct = (100 * dropV) / V
  const fuse = { min: fuseShare * A, max: cableA ?? null }
  const stop = fuse.max !== null && fuse.min > fuse.max
  const findings: Finding[] = []
  if (stop)
    findings.push(
      finding(
        'stop-fuse',
        'error',
        'No fuse fits: one that bears the load lets the cable burn.',
        `At least ${Number(fuse.min.toPrecision(3))} A for the load, at most ${fuse.max} A for the cable.`,
        'Take a thicker cable.',
      ),
    )
  if (dropPct > most)
    findings.push(
      finding(
        'caution-drop',
        'watch',
        `The leads take ${Number(dropPct.toPrecision(3))} % of the supply; ${most} % are allowed.`,
        `${Number(dropV.toPrecision(3))} V of ${V} V.`,
        'Take thicker or shorter leads.',
      ),
    )
  return {
    ok: true,
    value: {
      areaMm2: area,
      ohm,
      dropV,
      dropPct,
      lossW: A * A * ohm,
      minAreaMm2: (ohmMm2 * A) / ((most / 100) * V),
      fuse,
      verdict: stop ? 'stop' : findings.length > 0 ? 'caution' : 'ok',
      reasons: findings.map((f) => f.code),
      findings,
    },
  }
}
