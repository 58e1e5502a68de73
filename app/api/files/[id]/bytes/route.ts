import { z } from 'zod'
import { database } from '@/server/db/client'
import { bytesOfFile, cover } from '@/server/files/private-bytes'

const Query = z.object({
  from: z.coerce.number().int().min(0).max(0xffffffff),
  length: z.coerce.number().int().min(1).max(4096).default(512),
})

/** A piece of a kept file for the hex view, with what looks like a key covered. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!query.success)
    return Response.json({ ok: false, error: { message: 'There is no such piece.' } }, { status: 404 })
  const found = await bytesOfFile(database(), (await params).id)
  if (!found.ok) return found.missing
  const { from, length } = query.data
  return Response.json(
    {
      ok: true,
      value: { name: found.name, total: found.bytes.length, offset: from, ...cover(found.bytes, from, length) },
    },
    { headers: { 'cache-control': 'private, no-store' } },
  )
}
