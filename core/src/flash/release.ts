import { z } from 'zod'
import { families } from '../families/families'
import type { ImageInspection } from '../image/inspect'
import { ConsoleWords } from '../link/questions'
import { Mapping } from '../live/mapping'
import { SetupMode } from '../network/beats'
import { Phrases } from '../profile/phrases'
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
  /** Name of the layout it is made for, when it needs a certain one: layouts change over wires only. */
  layout: z.string().max(60).nullable().default(null),
  /** Settings are converted here: it must not be jumped over. */
  stop: z.boolean().default(false),
  note: z.string().max(500).default(''),
})
export type Release = z.infer<typeof Release>

export const ProfileFields = z.object({
  families: z.array(z.enum(families)).max(8),
  setupAddress: z.string().max(60),
  about: z.string().max(500),
  /** Where its files begin on families whose chips say nothing about it, in bytes. */
  startOffsets: z.partialRecord(z.enum(families), z.number().int().min(0).max(0xffffffff)).default({}),
  releases: z.array(Release).max(500).default([]),
  /** What it can be asked over its console. */
  console: ConsoleWords.nullable().default(null),
  /** Its settings in its own words. */
  phrases: Phrases.nullable().default(null),
  /** How its setup is opened by a button. */
  setup: SetupMode.nullable().default(null),
  /** What it says over the air, where its tree is another than the site’s own. */
  air: Mapping.nullable().default(null),
})

/** Bytes of a file that go over the air: of a whole-chip file with a partition table, its program only. */
export function updateBytes(found: Pick<ImageInspection, 'kind' | 'images' | 'gzip' | 'bytes'>): number {
  const program = found.kind === 'merged' && found.images[0]?.format === 'extended' ? found.images[1] : undefined
  return program?.bytes ?? found.gzip?.bytes ?? found.bytes
}

/**
 * The release that a file of the vault is described as, like "9.4.1/full", with family and size by its content.
 * Null when the description is no release, or the file tells no family.
 */
export function describedRelease(described: string, found: ImageInspection): Release | null {
  const [version, build, ...more] = described.split('/').map((part) => part.trim())
  const read = Release.safeParse({ version, build, family: found.family, bytes: updateBytes(found) })
  return read.success && more.length === 0 ? read.data : null
}

export const sameRelease = (
  a: Pick<Release, 'version' | 'build' | 'family'>,
  b: Pick<Release, 'version' | 'build' | 'family'>,
): boolean => a.version === b.version && a.build === b.build && a.family === b.family
