import { z } from 'zod'
import { number, share, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'
import { padRoles } from '../../wiring/wiring'

const PadCell = z.object({
  cont_gnd: z.boolean().optional(),
  ohms_3v3: z.union([z.number().finite(), z.literal('open')]).optional(),
  button_gnd: z.boolean().optional(),
  square: z.boolean().optional(),
  label: z.string().max(40).optional(),
  volts: z.number().finite().optional(),
  volts_10k: z.number().finite().optional(),
  dip: z.boolean().optional(),
  text: z.boolean().optional(),
})

/** Kept as seen from the parts side, left to right, row by row. Readings may still be impossible: the solver says so. */

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const padsRecord = z.object({
  pads: z.array(z.enum(padRoles)).max(12).default([]),
  readings: z.array(PadCell).max(12).default([]),
  rows: z.number().int().min(1).max(4).default(1),
  pitchMm: number,
  /** The side the person has in front of them: what they see and enter is turned before it is kept. */
  seenFrom: z.enum(['top', 'bottom']).default('top'),
  /** Where the pads lie on a photo, in the order of the pads; null when they are drawn as a row. */
  onPhoto: z
    .object({ fileId: z.string().max(60), at: z.array(z.object({ x: share, y: share })).max(12) })
    .nullable()
    .default(null),
  /** 3.3 V enters at a proven point that is not one of these pads. */
  railKnown: z.boolean().default(false),
  /** How BOOT is reached: a pad in the row, a button on the strap, or not at all (families without a strap). */
  bootBy: z.enum(['pad', 'button', 'none']).nullable().default(null),
  regulator5v: z.boolean().default(false),
  note: text(1000),
  /** The module of the kit whose contacts these pads are, and the contact of each pad; empty for pads of a board. */
  moduleId: z.string().max(60).nullable().default(null),
  contacts: z.array(z.number().int().min(1).max(999)).max(12).default([]),
  /** Between two parallel rows, in steps of 2.54 mm. */
  rowGap: z.number().int().min(1).max(40).nullable().default(null),
})

export const padsFields = padsRecord.shape

export const record = recordKind(padsRecord, { series: { readings: (_, index) => String(index) } })
