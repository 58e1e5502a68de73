import type { Calibration } from '@fresh-coat/core/unit/view'
import { z } from 'zod'

/** Of a stored fit, what is shown: whatever version wrote it. */
const Result = z.object({
  model: z.string().catch('gain'),
  gain: z.number().catch(1),
  offset: z.number().catch(0),
  passed: z.boolean().nullable().catch(null),
  due: z.string().nullable().catch(null),
  points: z.array(z.object({ errAfterPct: z.number().nullish() })).catch([]),
})
const Input = z.object({ quantity: z.string().catch('P') })

/** A calibration as a query gives it as JSON. */
export interface JsonCalibration {
  id: string
  at: string
  input: unknown
  result: unknown
  firmware: string
}

export function calibrationView(c: JsonCalibration): Calibration {
  const result = Result.parse(c.result ?? {})
  const errors = result.points.flatMap((p) => (p.errAfterPct == null ? [] : [Math.abs(p.errAfterPct)]))
  return {
    id: c.id,
    at: new Date(c.at).toISOString(),
    quantity: Input.parse(c.input ?? {}).quantity,
    model: result.model,
    gain: result.gain,
    offset: result.offset,
    passed: result.passed,
    worstAfterPct: errors.length ? Math.max(...errors) : null,
    due: result.due,
    firmware: c.firmware,
  }
}
