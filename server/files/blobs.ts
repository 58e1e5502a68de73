import { createHash } from 'node:crypto'
import { and, asc, eq } from 'drizzle-orm'
import type { Source } from '../db/client'
import { blob, blobChunk } from '../db/schema'

/** Bytes by content: the same bytes are kept once, in pieces, and their hash is checked whenever they are read. */
const chunkBytes = 256 * 1024

export const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

/**
 * Keeps bytes under their hash.
 * @param about held false keeps hash and length only: the bytes stay where they came from. Bytes that are held already stay so.
 */
export async function keepBlob(
  source: Source,
  bytes: Uint8Array,
  { held = true, sha256 = sha256Of(bytes) }: { held?: boolean; sha256?: string } = {},
): Promise<string> {
  const made = await source.insert(blob).values({ sha256, bytes: bytes.length, held }).onConflictDoNothing().returning()
  if (!held) return sha256
  if (made.length === 0) {
    const now = await source
      .update(blob)
      .set({ held: true })
      .where(and(eq(blob.sha256, sha256), eq(blob.held, false)))
      .returning()
    if (now.length === 0) return sha256
  }
  for (let at = 0, seq = 0; at < bytes.length; at += chunkBytes, seq++)
    await source.insert(blobChunk).values({ sha256, seq, data: bytes.subarray(at, at + chunkBytes) })
  return sha256
}

export class DamagedBlob extends Error {}
/** What is said of it on every page that needs its bytes. */
export const damagedWords =
  'The stored bytes of this file are damaged: they do not fit their hash. Put the file in again from your own copy.'
/** The bytes were never given to the server: they are on the disk of the person. */
export class NotHeld extends Error {
  constructor() {
    super('Its bytes stayed on your disk; only hash, length and map are kept here.')
  }
}

/** The pieces of a blob in order; throws {@link DamagedBlob} at the end when their hash is not the name. */
export async function* blobPieces(source: Source, sha256: string): AsyncGenerator<Uint8Array> {
  const [about] = await source.select().from(blob).where(eq(blob.sha256, sha256))
  if (about?.held === false) throw new NotHeld()
  const hash = createHash('sha256')
  const seqs = await source
    .select({ seq: blobChunk.seq })
    .from(blobChunk)
    .where(eq(blobChunk.sha256, sha256))
    .orderBy(asc(blobChunk.seq))
  for (const { seq } of seqs) {
    const [row] = await source.query.blobChunk.findMany({
      where: (c, { and, eq: is }) => and(is(c.sha256, sha256), is(c.seq, seq)),
    })
    if (!row) break
    hash.update(row.data)
    yield row.data
  }
  if (hash.digest('hex') !== sha256) throw new DamagedBlob(`The stored bytes of ${sha256} do not fit their hash.`)
}

export async function readBlob(source: Source, sha256: string): Promise<Uint8Array> {
  const pieces: Uint8Array[] = []
  for await (const piece of blobPieces(source, sha256)) pieces.push(piece)
  return Buffer.concat(pieces)
}

/** Two files beside each other are the most that a page looks into. */
const mostRecent = 2
const recentFor = 60_000
const recent = new Map<string, { bytes: Promise<Uint8Array>; forget: NodeJS.Timeout }>()

/**
 * Like {@link readBlob}, for looking into a file piece by piece: what was read and checked stays at hand for a minute after
 * its last use. Bytes under a hash never change, and two files bound the memory.
 */
export function readBlobAgain(source: Source, sha256: string): Promise<Uint8Array> {
  const known = recent.get(sha256)
  if (known) clearTimeout(known.forget)
  const bytes = known?.bytes ?? readBlob(source, sha256)
  recent.delete(sha256)
  recent.set(sha256, { bytes, forget: setTimeout(() => recent.delete(sha256), recentFor).unref() })
  // A read that failed is tried anew next time.
  bytes.catch(() => recent.delete(sha256))
  for (const [oldest, { forget }] of recent) {
    if (recent.size <= mostRecent) break
    clearTimeout(forget)
    recent.delete(oldest)
  }
  return bytes
}
