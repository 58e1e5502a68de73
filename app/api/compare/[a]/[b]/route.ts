import { compareDumps } from '@fresh-coat/core/dump/compare'
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import { readBlob } from '@/server/blobs'
import { database } from '@/server/db'
import { file } from '@/server/schema'

/** Compares two kept files byte by byte. */
export async function GET(_: Request, { params }: { params: Promise<{ a: string; b: string }> }) {
  const ids = Object.values(await params)
  if (ids.some((id) => !z.uuid().safeParse(id).success)) return Response.json({ ok: false }, { status: 404 })
  const db = database()
  const read = async (id: string) => {
    const [row] = await db.select().from(file).where(eq(file.id, id))
    return row ? readBlob(db, row.sha256) : null
  }
  const [a, b] = [await read(ids[0] as string), await read(ids[1] as string)]
  if (!a || !b)
    return Response.json({ ok: false, error: { message: 'One of the files is not there any more.' } }, { status: 404 })
  return Response.json({ ok: true, value: compareDumps(a, b) })
}
