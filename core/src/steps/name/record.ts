import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const nameRecord = z.object({
  spoken: text(200),
  pinned: z.string().max(63).default(''),
  reserved: z.boolean().default(false),
  /** How it is found where its address is not reserved; each has its price. */
  kept: z.enum(['lookup', 'fixed']).nullable().default(null),
  /** From where it was heard after that, and when. */
  seenAt: z
    .object({ address: z.string().max(60), at: z.iso.datetime() })
    .nullable()
    .default(null),
})

export const record = recordKind(nameRecord)
