import { z } from 'zod'
import { number } from '../../unit/fields'
import { recordKind } from '../../unit/record'

const Point = z.object({
  id: z.string().max(40),
  indicated: number,
  reference: number,
  role: z.enum(['fit', 'verify']).default('fit'),
})

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const meterRecord = z.object({
  noMeter: z.boolean().default(false),
  quantity: z.enum(['P', 'I', 'V']).default('P'),
  instrumentId: z.string().nullable().default(null),
  indicatedResolution: z.number().finite().min(0).default(0.1),
  loadKind: z.enum(['resistive', 'charger', 'motor', 'other']).default('resistive'),
  warm: z.boolean().default(false),
  limitPct: z.number().finite().min(0).default(2),
  limitAbs: z.number().finite().min(0).default(0.5),
  model: z.enum(['auto', 'gain', 'gainOffset']).default('auto'),
  recheckMonths: z.number().int().min(1).max(120).default(12),
  points: z.array(Point).max(60).default([]),
  zeros: z.array(z.number().finite()).max(60).default([]),
})

export const record = recordKind(meterRecord, { series: { points: (p: { id: string }) => p.id } })
