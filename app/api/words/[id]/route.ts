import { z } from 'zod'
import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { readBlob } from '@/server/files/blobs'
import { wordsBlob } from '@/server/words/reads'

export const dynamic = 'force-dynamic'

/** What a tool printed, as it was pasted. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = z.uuid().safeParse((await params).id)
  try {
    const kept = id.success ? await wordsBlob(database(), id.data) : null
    if (!kept) return new Response('There is no such text.', { status: 404 })
    return new Response(Buffer.from(await readBlob(database(), kept.sha256)), {
      headers: {
        'content-type': 'text/plain; charset=utf-8',
        'x-content-type-options': 'nosniff',
        'cache-control': 'private, no-store',
      },
    })
  } catch (cause) {
    return answerFault('words', cause)
  }
}
