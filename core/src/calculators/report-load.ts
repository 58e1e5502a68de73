import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'

/** How many messages units send to a broker, and how much slower they must report to stay below a limit (brief 07 §10). */
const Request = z.object({
  units: z
    .array(
      z.object({
        n: z
          .number()
          .positive()
          .superRefine((n, context) => {
            if (!Number.isInteger(n)) refuse(context, 'range', [], 'A number of units is whole.')
          }),
        perMessageBytes: z.number().positive().nullish(),
        periodS: z.number().positive(),
      }),
    )
    .min(1),
  maxPerMinute: z.number().positive().nullish(),
})

export interface ReportLoad {
  /** Messages. */
  perMinute: number
  bytesPerSecond: number
  /** What all periods have to grow by; 1 where the limit is met, null without one. */
  factor: number | null
}

const usualBytes = 200

/** `report-load`. Faults: `input`, `range`, `empty`. */
export function reportLoad(input: unknown): Outcome<ReportLoad> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { units, maxPerMinute } = parsed.value
  const perSecond = units.reduce((sum, u) => sum + u.n / u.periodS, 0)
  const bytesPerSecond = units.reduce((sum, u) => sum + (u.n * (u.perMessageBytes ?? usualBytes)) / u.periodS, 0)
  const perMinute = perSecond * 60
  const factor = maxPerMinute == null ? null : Math.max(1, perMinute / maxPerMinute)
  return { ok: true, value: { perMinute, bytesPerSecond, factor } }
}
