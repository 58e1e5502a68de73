import { printableStrings } from '@fresh-coat/core/dump/strings'
import { z } from 'zod'
import { database } from '@/server/db/client'
import { bytesOfFile } from '@/server/files/private-bytes'

const Query = z.object({
  from: z.coerce.number().int().min(0).max(0xffffffff).default(0),
  q: z.string().max(200).default(''),
})

/** Text in a kept file, a hundred strings at a time, with what looks like a key covered. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!query.success)
    return Response.json({ ok: false, error: { message: 'There is no such place in it.' } }, { status: 404 })
  const found = await bytesOfFile(database(), (await params).id)
  if (!found.ok) return found.missing
  return Response.json(
    { ok: true, value: printableStrings(found.bytes, query.data.from, 8, 100, query.data.q) },
    { headers: { 'cache-control': 'private, no-store' } },
  )
}
