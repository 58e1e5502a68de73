import { z } from 'zod'
import { closeSession, listenTo, sessionOf } from '@/field/ports'
import { answerFault, refuse } from '@/server/db/answer'
import { foreignOrigin } from '@/server/db/guard'

export const dynamic = 'force-dynamic'

type Asked = { params: Promise<{ id: string }> }
const gone = () => refuse(404, 'gone', 'This port is closed.', 'Open it again.')

/** What comes over the port, as it comes; whoever stops listening closes it. */
export async function GET(_: Request, { params }: Asked) {
  const { id } = await params
  let end: (() => void) | null = null
  const stream = new ReadableStream<Uint8Array>({
    start: (to) => {
      // The answer begins at once: a page waits for its first byte.
      end = listenTo(id, {
        bytes: (bytes) => to.enqueue(bytes),
        over: () => {
          closeSession(id)
          to.close()
        },
      })
      if (!end) to.close()
    },
    cancel: () => end?.(),
  })
  if (!sessionOf(id)) return gone()
  return new Response(stream, {
    headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  })
}

const Lines = z.object({ dtr: z.boolean(), rts: z.boolean() })
const Rate = z.object({ rate: z.number().int().min(300).max(4_000_000) })
const mostAtOnce = 65_536

/** Bytes for the port; or, as JSON, its rate or its lines. */
export async function POST(request: Request, { params }: Asked) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  const session = sessionOf((await params).id)
  if (!session || session.over !== null) return gone()
  try {
    if (request.headers.get('content-type') === 'application/json') {
      const told = await request.json().catch(() => null)
      const rate = Rate.safeParse(told)
      const lines = Lines.safeParse(told)
      if (rate.success) await session.port.setRate(rate.data.rate)
      else if (lines.success) await session.port.setLines(lines.data)
      else return refuse(422, 'input', 'Neither a rate nor lines.', 'Say one of them.')
    } else {
      const bytes = new Uint8Array(await request.arrayBuffer())
      if (bytes.length > mostAtOnce) return refuse(413, 'too-large', 'Too many bytes at once.', 'Send fewer.')
      await session.port.write(bytes)
    }
    return Response.json({ ok: true })
  } catch (cause) {
    return answerFault('field', cause)
  }
}

export async function DELETE(request: Request, { params }: Asked) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  closeSession((await params).id)
  return Response.json({ ok: true })
}
