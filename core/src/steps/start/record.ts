import { z } from 'zod'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const startRecord = z.object({
  log: z.string().max(1_000_000).default(''),
  /** Seen some other way than in the boot text. */
  seenBy: z.enum(['boot text', 'access point', 'light or click']).nullable().default(null),
  strapFree: z.boolean().default(false),
})

export const record = recordKind(startRecord, { texts: ['log'] })
