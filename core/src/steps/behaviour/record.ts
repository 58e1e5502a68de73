import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

export const powerOnStates = ['off', 'on', 'last'] as const

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const behaviourRecord = z.object({
  channels: z
    .array(z.object({ ch: z.number().int().min(0), onPower: z.enum(powerOnStates), tried: z.boolean() }))
    .max(32)
    .default([]),
  note: text(2000),
})

export const record = recordKind(behaviourRecord)
