import { pictureSize } from '@fresh-coat/core/photo/dimensions'
import { z } from 'zod'
import { database } from '@/server/db/client'
import { blobPieces, DamagedBlob, damagedWords, NotHeld, readBlob } from '@/server/files/blobs'
import { fileById } from '@/server/files/reads'

/** The bytes of a file, exactly as they came. `?view` shows a photo in the page instead of saving it. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  if (!z.uuid().safeParse(id).success) return new Response('There is no such file.', { status: 404 })
  const db = database()
  const file = await fileById(db, id)
  if (!file) return new Response('There is no such file.', { status: 404 })
  if (file.held === false) return new Response(new NotHeld().message, { status: 410 })
  const headers: Record<string, string> = {
    'cache-control': 'private, no-store',
    'x-content-type-options': 'nosniff',
    'content-length': String(file.bytes),
  }
  if (file.kind === 'photo' && new URL(request.url).searchParams.has('view')) {
    const bytes = await readBlob(db, file.sha256).catch((cause) =>
      cause instanceof DamagedBlob ? null : Promise.reject(cause),
    )
    if (bytes === null) return new Response(damagedWords, { status: 500, headers: { 'content-type': 'text/plain' } })
    return new Response(new Uint8Array(bytes), {
      headers: {
        ...headers,
        'content-type': pictureSize(bytes)?.type ?? 'application/octet-stream',
        'content-security-policy': "default-src 'none'",
      },
    })
  }
  const pieces = blobPieces(db, file.sha256)
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      // A damaged blob breaks the download off: half a file must never look like a whole one.
      const { done, value } = await pieces.next()
      if (done) controller.close()
      else controller.enqueue(new Uint8Array(value))
    },
    async cancel() {
      await pieces.return(undefined)
    },
  })
  return new Response(body, {
    headers: {
      ...headers,
      'content-type': 'application/octet-stream',
      'content-security-policy': "default-src 'none'",
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      'x-sha256': file.sha256,
    },
  })
}
