import { compareDumps, equalByHash } from '@fresh-coat/core/dump/compare'
import { coveredPlaces, coverMask } from '@fresh-coat/core/dump/cover'
import { eq, inArray } from 'drizzle-orm'
import { z } from 'zod'
import type { Source } from '../db/client'
import { blob, file } from '../db/schema'
import { DamagedBlob, damagedWords, NotHeld, readBlobAgain } from './blobs'

/** Bytes of a kept file as a page may show them: what looks like a password or key is covered. */

export interface CoveredBytes {
  name: string
  /** Length of the whole file. */
  total: number
  offset: number
  /** Hex of the piece; covered bytes are 00. */
  hex: string
  /** Pieces of it that are covered, from the start of the file. */
  covered: { offset: number; length: number }[]
}

export type FileBytes = { ok: true; name: string; bytes: Uint8Array } | { ok: false; missing: Response }

const missing = (status: number, message: string): FileBytes => ({
  ok: false,
  missing: Response.json({ ok: false, error: { message } }, { status }),
})

/** The file of an id with its bytes, or the answer that says why there are none. */
export async function bytesOfFile(source: Source, id: string): Promise<FileBytes> {
  const [row] = z.uuid().safeParse(id).success ? await source.select().from(file).where(eq(file.id, id)) : []
  if (!row) return missing(404, 'The file is not there any more.')
  try {
    return { ok: true, name: row.name, bytes: await readBlobAgain(source, row.sha256) }
  } catch (cause) {
    if (cause instanceof NotHeld) return missing(410, cause.message)
    if (cause instanceof DamagedBlob) return missing(500, damagedWords)
    throw cause
  }
}

/** What differs between two files, as an answer; equal hashes need no bytes, which may be on the person's disk only. */
export async function compareFiles(source: Source, a: string, b: string): Promise<Response> {
  const known = [a, b].every((id) => z.uuid().safeParse(id).success)
  const rows = known
    ? await source
        .select()
        .from(file)
        .innerJoin(blob, eq(file.sha256, blob.sha256))
        .where(inArray(file.id, [a, b]))
    : []
  const one = rows.find((r) => r.file.id === a)?.blob
  const two = rows.find((r) => r.file.id === b)?.blob
  if (one && one.sha256 === two?.sha256) return Response.json({ ok: true, value: equalByHash(one.bytes) })
  const [first, second] = [await bytesOfFile(source, a), await bytesOfFile(source, b)]
  if (!first.ok) return first.missing
  if (!second.ok) return second.missing
  return Response.json({ ok: true, value: compareDumps(first.bytes, second.bytes) })
}

/** A key block has up to some kilobytes before and behind a piece of it. */
const margin = 16_384

/** A piece of a file with its secrets covered. A secret may begin before the piece: a margin is looked at as well. */
export function cover(bytes: Uint8Array, offset: number, length: number): Pick<CoveredBytes, 'hex' | 'covered'> {
  const from = Math.max(0, offset - margin)
  const end = Math.min(bytes.length, offset + length)
  const places = coveredPlaces(bytes.subarray(from, Math.min(bytes.length, end + margin)))
  const piece = Buffer.from(bytes.subarray(offset, end))
  const covered: CoveredBytes['covered'] = []
  for (const place of places) {
    const start = Math.max(offset, from + place.offset)
    const stop = Math.min(end, from + place.offset + place.length)
    if (stop <= start) continue
    piece.fill(0, start - offset, stop - offset)
    covered.push({ offset: start, length: stop - start })
  }
  return { hex: piece.toString('hex'), covered }
}

const mostHits = 200

/** Where a text (Latin-1) or a row of hex bytes stands in a file, outside of what is covered; at most 200 places. */
export function searchBytes(bytes: Uint8Array, query: string): { offsets: number[]; more: boolean } | null {
  const hex = query.replaceAll(/\s/g, '')
  const needle = /^0x([0-9a-f]{2})+$/i.test(hex) ? Buffer.from(hex.slice(2), 'hex') : Buffer.from(query, 'latin1')
  if (needle.length === 0 || needle.length > 256) return null
  const mask = coverMask(bytes)
  const hay = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const offsets: number[] = []
  for (let at = hay.indexOf(needle); at >= 0; at = hay.indexOf(needle, at + 1)) {
    // A hit that reaches into something covered is none: asking on and on would spell a password.
    if (mask.subarray(at, at + needle.length).includes(1)) continue
    if (offsets.length === mostHits) return { offsets, more: true }
    offsets.push(at)
  }
  return { offsets, more: false }
}
