import { z } from 'zod'
import { families } from '../families/families'
import { readVersion } from './version'

/** A release of a firmware as its profile keeps it: one build of one version, for one family. */
export const Release = z.object({
  version: z
    .string()
    .max(40)
    .refine((v) => readVersion(v) !== null, 'one to four numbers with dots'),
  build: z.string().trim().min(1).max(60),
  family: z.enum(families),
  bytes: z
    .number()
    .int()
    .positive()
    .max(16 * 1048576),
  gzBytes: z.number().int().positive().nullable().default(null),
  acceptsGzip: z.boolean().default(false),
  minFrom: z
    .string()
    .max(40)
    .refine((v) => readVersion(v) !== null, 'a version')
    .nullable()
    .default(null),
  minHost: z
    .string()
    .max(40)
    .refine((v) => readVersion(v) !== null, 'a version')
    .nullable()
    .default(null),
  /** Settings are converted here: it must not be jumped over. */
  stop: z.boolean().default(false),
  note: z.string().max(500).default(''),
})
export type Release = z.infer<typeof Release>

export const ProfileFields = z.object({
  families: z.array(z.enum(families)).max(8),
  setupAddress: z.string().max(60),
  about: z.string().max(500),
  releases: z.array(Release).max(500).default([]),
})
