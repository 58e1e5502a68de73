import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

export const backupSkipCodes = ['read-protected', 'already-replaced', 'no-read-path', 'twin', 'owner'] as const

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const backupRecord = z.object({
  flashId: text(40),
  /** Reads stay on the person's disk: hash, length and what was found are kept, the bytes are not. */
  onDisk: z.boolean().default(false),
  /** A tool read the chip and wrote it in one run: there is one read, and no chip left to read it from again. */
  oneRun: z.boolean().default(false),
  /** When the copy was last tried by putting it back; null for never. */
  restoreTested: z.iso.date().nullable().default(null),
  restoreMonths: z.number().int().min(1).max(120).default(24),
  skip: z
    .object({ code: z.enum(backupSkipCodes), reason: z.string().max(1000) })
    .nullable()
    .default(null),
})

export const record = recordKind(backupRecord)
