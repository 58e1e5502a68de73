import { z } from 'zod'
import { mostRests, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What may go away for a while. */
export const drills = ['mains-off', 'wifi-off', 'broker-off', 'hub-off', 'internet-off'] as const

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const proveRecord = z.object({
  powerCut: z
    .object({
      seconds: z.number().finite().min(0),
      /** Null while nobody has said. */
      cameBack: z.enum(['as wanted', 'otherwise']).nullable(),
      rejoinSeconds: z.number().finite().min(0).nullable(),
      /** What it rested on (`unit/look.ts`). */
      on: z.string().max(mostRests).nullish(),
    })
    .nullable()
    .default(null),
  note: text(1000),
  /** What was tried beside the power cut, the newest of a kind last. */
  drills: z
    .array(
      z.object({
        drill: z.enum(drills),
        /** Local day. */
        on: z.iso.date(),
        as: z.enum(['predicted', 'otherwise']),
        seen: z.string().max(500),
        /** How long until it was back; null where nobody timed it. */
        seconds: z.number().finite().min(0).max(1e6).nullable(),
      }),
    )
    .max(60)
    .default([]),
})

export const record = recordKind(proveRecord)
