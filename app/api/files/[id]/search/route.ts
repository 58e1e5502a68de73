import { z } from 'zod'
import { database } from '@/server/db'
import { bytesOfFile, searchBytes } from '@/server/private-bytes'

/** Places of a text or of hex bytes (0x…) in a kept file; places only, never what stands around them. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const query = new URL(request.url).searchParams.get('q') ?? ''
  const found = z.uuid().safeParse(id).success ? await bytesOfFile(database(), id) : null
  if (!found)
    return Response.json({ ok: false, error: { message: 'The file is not there any more.' } }, { status: 404 })
  const hits = searchBytes(found.bytes, query)
  if (!hits)
    return Response.json(
      { ok: false, error: { message: 'Give a text of 1 to 256 characters, or hex bytes like 0x4142.' } },
      { status: 422 },
    )
  return Response.json({ ok: true, value: hits }, { headers: { 'cache-control': 'private, no-store' } })
}
