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

const quantities = ['P', 'I', 'V'] as const
const points = z.array(Point).max(60).default([])
const zeros = z.array(z.number().finite()).max(60).default([])
const atLeast0 = (otherwise: number) => z.number().finite().min(0).default(otherwise)
const own = {
  indicatedResolution: atLeast0(0.1),
  limitPct: atLeast0(2),
  limitAbs: atLeast0(0.5),
  /** The factor that the unit has now; null where nobody looked. */
  factor: number,
}

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const meterRecord = z.object({
  noMeter: z.boolean().default(false),
  quantity: z.enum(quantities).default('P'),
  /** Of the other quantities, what was taken of them: see quantity.ts. */
  aside: z.partialRecord(z.enum(quantities), z.object({ points, zeros, ...own })).default({}),
  instrumentId: z.string().nullable().default(null),
  ...own,
  loadKind: z.enum(['resistive', 'charger', 'motor', 'other']).default('resistive'),
  warm: z.boolean().default(false),
  model: z.enum(['auto', 'gain', 'gainOffset']).default('auto'),
  recheckMonths: z.number().int().min(1).max(120).default(12),
  points,
  /** A meter that gives pulses: the numbers of its part, what was read. */
  pulse: PulsePart.nullable().default(null),
  /** How a frame of it is laid out: the person’s own data, as text. */
  frameLayout: text(10_000),
  /** Raw values in known states, where nobody knows yet which is which. */
  snapshots: z.array(RawSnapshot).max(20).default([]),
  /** What its counter showed, as it was pasted; a price and what it takes with its relay off. */
  counter: z.string().max(400_000).default(''),
  /** What a kWh costs this unit, where it is not the site’s. */
  perKWh: number,
  standbyW: number,
  zeros,
})

export const record = recordKind(meterRecord, {
  series: { points: (p: { id: string }) => p.id },
  texts: ['counter'],
})
