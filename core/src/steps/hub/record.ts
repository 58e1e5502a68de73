import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const hubRecord = z.object({
  hubId: z.string().nullable().default(null),
  noButton: z.boolean().default(false),
  note: text(1000),
})

export const record = recordKind(hubRecord)
