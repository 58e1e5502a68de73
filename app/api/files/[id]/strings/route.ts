import { printableStrings } from '@fresh-coat/core/dump/strings'
import { z } from 'zod'
import { database } from '@/server/db'
import { bytesOfFile } from '@/server/private-bytes'

const Query = z.object({
  from: z.coerce.number().int().min(0).max(0xffffffff).default(0),
  q: z.string().max(200).default(''),
})

/** Text in a kept file, a hundred strings at a time, with what looks like a key covered. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  const found = z.uuid().safeParse(id).success ? await bytesOfFile(database(), id) : null
  if (!found || !query.success)
    return Response.json({ ok: false, error: { message: 'The file is not there any more.' } }, { status: 404 })
  return Response.json(
    { ok: true, value: printableStrings(found.bytes, query.data.from, 8, 100, query.data.q) },
    { headers: { 'cache-control': 'private, no-store' } },
  )
}
