import { z } from 'zod'
import { refitField } from '../../refit/record'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const closeRecord = z.object({
  restored: z.record(z.string(), z.number().int().min(0)).default({}),
  partsBack: z.array(z.string()).max(60).default([]),
  clipsBroken: z.number().int().min(0).max(500).default(0),
  gluedAt: z.iso.datetime({ offset: true }).nullable().default(null),
  /** Counted here where nothing was written down at Open; null while nobody has counted. */
  fastenersOut: z.number().int().min(0).max(500).nullable().default(null),
  fastenersBack: z.number().int().min(0).max(500).nullable().default(null),
  looseParts: z.number().int().min(0).max(500).nullable().default(null),
  /** Did it come apart without force, blade or heat? */
  unharmed: z.enum(['yes', 'no']).nullable().default(null),
  /** Answers to the questions of closing, by their ids. */
  answers: z.record(z.string().max(40), z.enum(['yes', 'no'])).default({}),
  /** The module is in its place, on the routes that put one there. */
  moduleBack: z.boolean().default(false),
  /** Measured after the module went back or the case was forced, before any power. */
  refit: refitField,
  glueHours: z.number().finite().min(0).max(1000).nullable().default(null),
})

export const record = recordKind(closeRecord)
