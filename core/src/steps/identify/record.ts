import { z } from 'zod'
import { families } from '../../families/families'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const identifyRecord = z.object({
  /** Text printed on the chip, as read. */
  printed: text(80),
  evidence: z
    .array(
      z.object({
        kind: z.string(),
        value: z.string().optional(),
        counts: z.record(z.string(), z.number()).optional(),
        sure: z.number().min(0).max(1).optional(),
      }),
    )
    .max(20)
    .default([]),
  decision: z
    .object({ family: z.enum(families), reason: z.string().max(500) })
    .nullable()
    .default(null),
})

export const record = recordKind(identifyRecord)
