import { createServer, type Server } from 'node:net'
import type { ChipSpec } from './chip-spec'
import { VirtualLink } from './virtual-link'

/** A virtual chip behind a plain serial-over-TCP bridge on loopback: each caller gets a chip fresh from its reset. */
export async function serveChip(spec: ChipSpec, rate: number): Promise<{ port: number; server: Server }> {
  const server = createServer((socket) => {
    const link = new VirtualLink(spec, rate)
    let open = true
    socket.on('data', (bytes) => void link.write(new Uint8Array(bytes as Buffer)).catch(() => socket.destroy()))
    socket.on('close', () => {
      open = false
    })
    socket.on('error', () => {
      open = false
    })
    const pump = async () => {
      while (open) {
        const bytes = await link.read(5)
        if (bytes.length > 0) socket.write(bytes)
        await new Promise((done) => setTimeout(done, bytes.length > 0 ? 0 : 2))
      }
    }
    pump().catch(() => socket.destroy())
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const address = server.address()
  return { port: typeof address === 'object' && address ? address.port : 0, server }
}
