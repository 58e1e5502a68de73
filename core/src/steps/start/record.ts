import { z } from 'zod'
import { questionKinds } from '../../link/questions'
import { mostRests, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const startRecord = z.object({
  log: z.string().max(1_000_000).default(''),
  /** Seen some other way than in the boot text. */
  seenBy: z.enum(['boot text', 'access point', 'light or click']).nullable().default(null),
  strapFree: z.boolean().default(false),
  /** What this was seen of (`unit/look.ts`): the image on the chip. */
  on: z.string().max(mostRests).nullable().default(null),
  /** What its access point is called, as it said it or as a person saw it. */
  apName: text(64),
  /** What it was asked over its console, and how it answered: its own word, the last of each kind. */
  answers: z
    .array(
      z.object({
        what: z.enum(questionKinds),
        said: z.string().max(200),
        heard: z.string().max(500),
        words: z.string().max(600),
        severity: z.enum(['ok', 'watch', 'error']),
        at: z.string().max(40),
      }),
    )
    .max(60)
    .default([]),
})

export const record = recordKind(startRecord, { texts: ['log'] })
