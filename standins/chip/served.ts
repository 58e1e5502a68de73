import { createServer, type Server } from 'node:net'
import type { ChipSpec } from './chip-spec'
import { VirtualLink } from './virtual-link'

const idleMs = 20
const listenMs = 5

/** A virtual chip behind a plain serial-over-TCP bridge on loopback: each caller gets a chip fresh from its reset. */
export async function serveChip(spec: ChipSpec, rate: number): Promise<{ port: number; server: Server }> {
  const server = createServer((socket) => {
    socket.setNoDelay(true)
    const link = new VirtualLink(spec, rate)
    let open = true
    // One thing after the other: what is written is answered before anything else is heard.
    let last: Promise<void> = Promise.resolve()
    const then = (run: () => Promise<void>) => {
      last = last.then(run).catch(() => {
        socket.destroy()
      })
    }
    const handOn = async () => {
      for (let bytes = await link.read(listenMs); open && bytes.length > 0; bytes = await link.read(listenMs))
        socket.write(bytes)
    }
    const timer = setInterval(() => then(handOn), idleMs)
    const over = () => {
      open = false
      clearInterval(timer)
    }
    socket.on('data', (bytes) =>
      then(async () => {
        await link.write(new Uint8Array(bytes as Buffer))
        await handOn()
      }),
    )
    socket.on('close', over)
    socket.on('error', over)
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const address = server.address()
  return { port: typeof address === 'object' && address ? address.port : 0, server }
}
