import { z } from 'zod'
import { entryMethods } from '../../families/families'
import { refitField } from '../../refit/record'
import { recordKind } from '../../unit/record'
import { padRoles, powerSources } from '../../wiring/wiring'

/** What feeds the board: what the wiring plan knows, or a regulator of one's own on the adapter's 5 V. */
export const supplies = [...powerSources, 'regulator'] as const

/** What leads can be held by. */
export const holds = ['hand', 'jig', 'plug', 'solder'] as const

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const wireRecord = z.object({
  adapterId: z.string().nullable().default(null),
  power: z.enum(supplies).default('adapter3v3'),
  benchV: z.number().finite().default(3.3),
  entry: z.enum(entryMethods).nullable().default(null),
  /** The regulator of one's own: what it drops at least, what it gives, how it sheds its heat. */
  regulator: z
    .object({
      dropoutV: z.number().min(0).max(20),
      iMaxMA: z.number().positive().max(20_000),
      thetaJA: z.number().positive().max(1000),
    })
    .nullable()
    .default(null),
  /** Resistors in front of the board's RX, when the adapter drives more than 3.3 V. */
  divider: z
    .object({ rTop: z.number().positive().max(1e9), rBottom: z.number().positive().max(1e9) })
    .nullable()
    .default(null),
  /** The side of the board that the plug or jig goes on to. */
  plugFace: z.enum(['top', 'bottom']).default('top'),
  adapterPitchMm: z.number().positive().max(50).default(2.54),
  /** Pads whose lead is on. */
  joined: z.array(z.enum(padRoles)).max(12).default([]),
  /** From which pin to which pad each of them went when it was put on (leads.ts); older records do not say. */
  leadsAt: z.partialRecord(z.enum(padRoles), z.string().max(200)).default({}),
  /** Leads of their own that are made: ties of a bare module, a regulator's three. */
  ties: z.array(z.string().max(20)).max(8).default([]),
  /** What holds the leads on the pads. */
  held: z.enum(holds).nullable().default(null),
  /** Measured after leads were soldered, before any power. */
  refit: refitField,
  /** What came out of TX through the reset, and the rate it was read at. */
  log: z.string().max(1_000_000).default(''),
  logHex: z.string().max(400_000).default(''),
  logBaud: z.number().int().positive().max(10_000_000).nullable().default(null),
})

export const record = recordKind(wireRecord, { texts: ['log', 'logHex'] })
