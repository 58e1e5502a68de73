import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const writeRecord = z.object({
  note: text(1000),
  /** A set is written file by file, each at its own offset, and not as the one file it was made into. */
  byParts: z.boolean().default(false),
})

export const record = recordKind(writeRecord)
