import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const checkRecord = z.object({
  fileId: z.string().nullable().default(null),
  offset: z.number().int().min(0).max(0xffffffff).nullable().default(null),
  eraseAll: z.boolean().default(true),
  baud: z.number().int().min(300).max(4_000_000).default(115200),
  verify: z.enum(['digest', 'readback', 'none']).default('digest'),
  firmware: text(60),
  firmwareVersion: text(40),
  /** What the person wants of the build, against what a file name says. */
  variant: z.enum(['small', 'full', 'radio', 'sensors', 'display']).nullable().default(null),
  language: z.string().max(2).nullable().default(null),
  dataLines: z
    .union([z.literal(2), z.literal(4)])
    .nullable()
    .default(null),
  /** Files that go in together, each with its flash address; null while nobody knows it. They are made one file before they go in. */
  set: z
    .array(
      z.object({
        fileId: z.string(),
        name: z.string().max(200),
        bytes: z.number().int().min(0),
        sha256: z.string().max(64),
        offset: z.number().int().min(0).max(0xffffffff).nullable(),
      }),
    )
    .max(16)
    .default([]),
  /** Warnings that the person has answered, with what they said (answered.ts). */
  answered: z.array(z.string().max(2000)).max(50).default([]),
})

export const record = recordKind(checkRecord)
