import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { onAirNews } from '@/server/live/feed'
import { linkRow, onAir } from '@/server/live/reads'

export const dynamic = 'force-dynamic'

const aliveMs = 15_000
const mostRows = 200
const kept = globalThis as unknown as { freshCoatStreams?: Set<() => void> }
// The web server closes them when it ends: open streams would hold it.
kept.freshCoatStreams ??= new Set()
const streams = kept.freshCoatStreams

/** The air as it changes: all of a page first, then what changed of anybody. A page that comes back has everything again. */
export async function GET(request: Request) {
  const after = Math.max(0, Number(new URL(request.url).searchParams.get('after') ?? 0) || 0)
  try {
    const first = { rows: await onAir(database(), after, mostRows), link: await linkRow(database()) }
    const encoder = new TextEncoder()
    let close = () => {}
    const body = new ReadableStream<Uint8Array>({
      start(controller) {
        const send = (event: string, data: unknown) => {
          try {
            controller.enqueue(encoder.encode(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`))
          } catch {
            close()
          }
        }
        const alive = setInterval(() => send('alive', {}), aliveMs)
        const stop = onAirNews((news) => send('news', news))
        close = () => {
          close = () => {}
          clearInterval(alive)
          stop()
          streams.delete(end)
          try {
            controller.close()
          } catch {
            // It is closed already.
          }
        }
        const end = () => close()
        streams.add(end)
        request.signal.addEventListener('abort', end)
        controller.enqueue(encoder.encode('retry: 2000\n\n'))
        send('all', first)
      },
      cancel: () => close(),
    })
    return new Response(body, {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' },
    })
  } catch (cause) {
    return answerFault('live', cause)
  }
}
