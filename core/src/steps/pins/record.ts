import { z } from 'zod'
import { AddedSensor } from '../../pins/sensor'
import { ProbeSession } from '../../pins/session'
import { PinTemplate, withCurrentNames } from '../../pins/template'
import { share } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const pinsRecord = z.object({
  template: PinTemplate.nullable().default(null),
  /** What powers the unit while its pins are tried; the gates follow from it. Null while nobody has said. */
  power: z.enum(['adapter', 'rail', 'mains']).nullable().default(null),
  /** The search for pins that goes on, over sittings. */
  session: ProbeSession.nullable().default(null),
  /** Set points of a lamp’s channels, and what each showed. */
  lights: z
    .object({
      a: z.string().max(20),
      b: z.string().max(20),
      obs: z
        .array(
          z.object({
            a: share,
            b: share,
            lux: z.number().min(0).max(1_000_000),
            tone: z.enum(['cool', 'neutral', 'warm']).nullable(),
          }),
        )
        .max(40),
      coolK: z.number().min(1000).max(20_000),
      warmK: z.number().min(1000).max(20_000),
    })
    .nullable()
    .default(null),
  /** Sensors of one’s own, with how they were tried. */
  sensors: z.array(AddedSensor).max(12).default([]),
  sitting: z.number().int().min(1).max(1000).default(1),
})

export const record = recordKind(pinsRecord, {
  // Functions of a pulse-output meter had other names.
  upgrades: [(old) => ({ ...old, template: withCurrentNames(old.template ?? null) })],
})
