import { OwnBuild } from '@fresh-coat/core/flash/own-build'
import { flashModes } from '@fresh-coat/core/image/image'
import { inspectImage } from '@fresh-coat/core/image/inspect'
import { patchedName, patchMode } from '@fresh-coat/core/image/patch'
import { photoTags } from '@fresh-coat/core/open/opening'
import { and, eq, gt, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { Refused } from '../db/fault'
import { id, version } from '../db/fields'
import * as schema from '../db/schema'
import { DamagedBlob, keepBlob, NotHeld, readBlob, sha256Of } from './blobs'
import { searchBytes } from './private-bytes'

/** The bytes of a file that a command works on. */
async function bytesHeld(c: Change, sha256: string): Promise<Uint8Array> {
  try {
    return await readBlob(c.tx, sha256)
  } catch (cause) {
    if (cause instanceof DamagedBlob)
      throw new Refused(
        'damaged',
        'The stored bytes of this file are damaged.',
        'Put the file in again from your own copy.',
      )
    if (!(cause instanceof NotHeld)) throw cause
    throw new Refused('not-held', cause.message, 'Choose the file again and have it kept here.')
  }
}

/** An image with these very bytes that can be chosen already. */
export async function sameImage(c: Change, sha256: string) {
  const { file } = schema
  const [same] = await c.live('file', and(eq(file.sha256, sha256), eq(file.kind, 'image'), isNull(file.asideAt)))
  return same ?? null
}

const patchImage = command(z.object({ fileId: id, mode: z.enum(flashModes) }), async (c, { fileId, mode }) => {
  const [source] = await c.live('file', eq(schema.file.id, fileId))
  if (source?.kind !== 'image') throw new Refused('gone', 'There is no such image.', 'Go back to Images.')
  const bytes = await bytesHeld(c, source.sha256)
  const patched = patchMode(bytes, mode, source.sha256)
  if (!patched.bytes) {
    const why = patched.findings[0]
    throw new Refused(
      why?.code ?? 'not-patched',
      why?.message ?? 'Nothing was patched.',
      why?.next || 'Choose another mode.',
    )
  }
  const sha256 = await keepBlob(c.tx, patched.bytes)
  const same = await sameImage(c, sha256)
  if (same) return { id: same.id, name: same.name, known: true }
  const row = await c.insert('file', {
    kind: 'image',
    name: patchedName(source.name, mode),
    sha256,
    inspection: inspectImage(patched.bytes, {}, { sha256, digest: sha256Of }),
    sourceId: source.id,
    origin: `${source.name}, mode ${patched.from} to ${mode}`,
    firmware: source.firmware,
    release: source.release,
    createdAt: c.now,
  })
  await c.tell({
    kind: 'image-patched',
    sentence: `${row.name} made from ${source.name}: mode ${patched.from} to ${mode}`,
  })
  return { id: row.id, name: row.name, known: false }
})

const describeFile = command(
  z.object({
    fileId: id,
    version,
    origin: z.string().trim().max(300),
    firmware: z.string().trim().max(60),
    release: z.string().trim().max(60),
  }),
  async (c, { fileId, version: seen, ...patch }) => {
    const row = await c.update('file', fileId, seen, patch)
    await c.tell({ kind: 'file-described', unitId: row.unitId, sentence: `${row.name}: where it came from is noted` })
    return { version: row.version }
  },
)

/** Whose build it is, and what is in it: said by a person, and held against every unit it would go into. */
const describeBuild = command(
  z.object({ fileId: id, version, build: OwnBuild }),
  async (c, { fileId, version: seen, build }) => {
    const [row] = await c.live('file', eq(schema.file.id, fileId))
    if (row?.kind !== 'image') throw new Refused('gone', 'There is no such image.', 'Go back to Images.')
    const kept = await c.update('file', fileId, seen, { build })
    await c.tell({ kind: 'build-described', sentence: `${row.name}: whose build it is, and what is in it` })
    return { version: kept.version }
  },
)

const revealBytes = command(
  z.object({ fileId: id, offset: z.number().int().min(0), length: z.number().int().min(1).max(4096) }),
  async (c, { fileId, offset, length }) => {
    const [row] = await c.live('file', eq(schema.file.id, fileId))
    if (!row) throw new Refused('gone', 'There is no such file.', 'Go back to Images.')
    const bytes = await bytesHeld(c, row.sha256)
    await c.tell({
      kind: 'bytes-revealed',
      unitId: row.unitId,
      sentence: `${row.name}: ${length} bytes at 0x${offset.toString(16).toUpperCase()} shown unmasked`,
    })
    return { hex: Buffer.from(bytes.subarray(offset, offset + length)).toString('hex') }
  },
)

const searchesAnHour = 60

/** Searches of private bytes are told of, and so many an hour are enough for a person. */
async function refuseManySearches(c: Change): Promise<void> {
  const { event } = schema
  const [row] = await c.tx
    .select({ n: sql<number>`count(*)::int` })
    .from(event)
    .where(and(eq(event.kind, 'bytes-searched'), gt(event.at, new Date(c.now.getTime() - 3_600_000))))
  if ((row?.n ?? 0) >= searchesAnHour)
    throw new Refused(
      'enough-searches',
      `There were ${searchesAnHour} searches of private bytes in the last hour.`,
      'Go on later, or save the file and search it on your own disk.',
    )
}

/** Places of a text or of hex bytes (0x…) in a kept file; places only, never what stands around them. */
const searchFile = command(
  z.object({ fileId: id, query: z.string().min(1).max(514) }),
  async (c, { fileId, query }) => {
    const [row] = await c.live('file', eq(schema.file.id, fileId))
    if (!row) throw new Refused('gone', 'There is no such file.', 'Go back to Images.')
    if (row.kind === 'dump') await refuseManySearches(c)
    const hits = searchBytes(await bytesHeld(c, row.sha256), query)
    if (!hits)
      throw new Refused(
        'no-query',
        'That is nothing to look for.',
        'Give a text of 1 to 256 characters, or hex bytes like 0x4142.',
      )
    if (row.kind === 'dump')
      await c.tell({ kind: 'bytes-searched', unitId: row.unitId, sentence: `${row.name}: its bytes were searched` })
    return hits
  },
)

const putAside = command(z.object({ fileId: id }), async (c, { fileId }) => {
  const row = await c.update('file', fileId, null, { asideAt: c.now })
  await c.tell({ kind: 'file-put-aside', unitId: row.unitId, sentence: `${row.name} put aside` })
  return {}
})

const tagPhoto = command(z.object({ fileId: id, tag: z.enum(photoTags) }), async (c, { fileId, tag }) => {
  const row = await c.update('file', fileId, null, { tag })
  await c.tell({
    kind: 'photo-tagged',
    unitId: row.unitId,
    sentence: `photo ${row.name} shows: ${tag.replaceAll('_', ' ')}`,
  })
  return {}
})

export const fileCommands = {
  'patch-image': patchImage,
  'describe-file': describeFile,
  'describe-build': describeBuild,
  'reveal-bytes': revealBytes,
  'search-bytes': searchFile,
  'put-file-aside': putAside,
  'tag-photo': tagPhoto,
}
