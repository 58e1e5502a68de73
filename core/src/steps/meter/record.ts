import { z } from 'zod'
import { PulsePart } from '../../metering/pulse-of-unit'
import { RawSnapshot } from '../../metering/raw-of-unit'
import { number, text } from '../../unit/fields'
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
  /** The factor that the unit has now; null where nobody looked. */
  factor: number,
  /** A meter that gives pulses: the numbers of its part, what was read. */
  pulse: PulsePart.nullable().default(null),
  /** How a frame of it is laid out: the person’s own data, as text. */
  frameLayout: text(10_000),
  /** Raw values in known states, where nobody knows yet which is which. */
  snapshots: z.array(RawSnapshot).max(20).default([]),
  /** What its counter showed, as it was pasted; a price and what it takes with its relay off. */
  counter: z.string().max(400_000).default(''),
  perKWh: number,
  standbyW: number,
  zeros: z.array(z.number().finite()).max(60).default([]),
})

export const record = recordKind(meterRecord, {
  series: { points: (p: { id: string }) => p.id },
  texts: ['counter'],
})
