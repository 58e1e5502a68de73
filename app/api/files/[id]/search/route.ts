import { database } from '@/server/db/client'
import { bytesOfFile, searchBytes } from '@/server/files/private-bytes'

/** Places of a text or of hex bytes (0x…) in a kept file; places only, never what stands around them. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const query = new URL(request.url).searchParams.get('q') ?? ''
  const found = await bytesOfFile(database(), (await params).id)
  if (!found.ok) return found.missing
  const hits = searchBytes(found.bytes, query)
  if (!hits)
    return Response.json(
      { ok: false, error: { message: 'Give a text of 1 to 256 characters, or hex bytes like 0x4142.' } },
      { status: 422 },
    )
  return Response.json({ ok: true, value: hits }, { headers: { 'cache-control': 'private, no-store' } })
}
