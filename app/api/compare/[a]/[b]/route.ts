import { compareDumps, equalByHash } from '@fresh-coat/core/dump/compare'
import { inArray } from 'drizzle-orm'
import { z } from 'zod'
import { database } from '@/server/db'
import { bytesOfFile } from '@/server/private-bytes'
import { blob, file } from '@/server/schema'

/** Compares two kept files byte by byte; of files with one hash nothing needs to be read. */
export async function GET(_: Request, { params }: { params: Promise<{ a: string; b: string }> }) {
  const { a, b } = await params
  const db = database()
  const rows = [a, b].every((id) => z.uuid().safeParse(id).success)
    ? await db
        .select()
        .from(file)
        .where(inArray(file.id, [a, b]))
    : []
  const hashes = new Set(rows.map((r) => r.sha256))
  const [about] =
    hashes.size === 1
      ? await db
          .select()
          .from(blob)
          .where(inArray(blob.sha256, [...hashes]))
      : []
  if (about && [a, b].every((id) => rows.some((r) => r.id === id)))
    return Response.json({ ok: true, value: equalByHash(about.bytes) })
  const [one, two] = [await bytesOfFile(db, a), await bytesOfFile(db, b)]
  if (!one.ok) return one.missing
  if (!two.ok) return two.missing
  return Response.json({ ok: true, value: compareDumps(one.bytes, two.bytes) })
}
