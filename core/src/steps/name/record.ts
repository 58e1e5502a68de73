import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const nameRecord = z.object({
  spoken: text(200),
  pinned: z.string().max(63).default(''),
  reserved: z.boolean().default(false),
})

export const record = recordKind(nameRecord)
