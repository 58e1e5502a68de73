import { plainGain } from '@fresh-coat/core/metering/told'
import { takenKey } from '@fresh-coat/core/steps/meter/quantity'
import type { Calibration } from '@fresh-coat/core/unit/view'
import { sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Source } from '../db/client'

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
const TakenPoints = z
  .array(z.object({ indicated: z.number(), reference: z.number(), role: z.string().catch('fit') }))
  .catch([])
const TakenZeros = z.array(z.number()).catch([])

/** A calibration as a query gives it as JSON: of its input the quantity, and all of it where an offset was fitted. */
export interface JsonCalibration {
  id: string
  at: string
  input: unknown
  points: unknown
  zeros: unknown
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
    plainGain: plainGain(c.input, result),
    passed: result.passed,
    worstAfterPct: errors.length ? Math.max(...errors) : null,
    due: result.due,
    firmware: c.firmware,
    taken: takenKey({ points: TakenPoints.parse(c.points), zeros: TakenZeros.parse(c.zeros) }),
  }
}

/** What a calibration did, point by point: small enough to be drawn beside others. */
export interface CalibrationPlot {
  unitId: string
  points: { x: number; before: number | null; after: number | null; verify: boolean }[]
}

const Plotted = z.object({
  input: z.array(z.object({ id: z.string(), reference: z.number(), role: z.string().optional() })).catch([]),
  result: z
    .array(z.object({ id: z.string(), errBeforePct: z.number().nullish(), errAfterPct: z.number().nullish() }))
    .catch([]),
})

/** The newest calibration of each of these units; one whose points cannot be read has none. */
export async function calibrationPlots(source: Source, unitIds: readonly string[]): Promise<CalibrationPlot[]> {
  if (unitIds.length === 0) return []
  const { rows } = await source.execute<{ unitId: string; input: unknown; result: unknown }>(sql`
    select distinct on (unit_id) unit_id as "unitId", input -> 'points' as input,
      coalesce(result -> 'points', '[]'::jsonb) || coalesce(result -> 'verify', '[]'::jsonb) as result
    from calibration where struck_at is null and unit_id in ${unitIds} order by unit_id, at desc`)
  return rows.map(({ unitId, ...stored }) => {
    const { input, result } = Plotted.parse(stored)
    return {
      unitId,
      points: input.flatMap((p) => {
        const errors = result.find((r) => r.id === p.id)
        if (!errors || p.reference <= 0) return []
        return [
          {
            x: p.reference,
            before: errors.errBeforePct ?? null,
            after: errors.errAfterPct ?? null,
            verify: p.role === 'verify',
          },
        ]
      }),
    }
  })
}
