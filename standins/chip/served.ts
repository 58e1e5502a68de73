import { createServer, type Server } from 'node:net'
import type { ChipSpec } from './chip-spec'
import { VirtualLink } from './virtual-link'

const idleMs = 20
const listenMs = 5

/** A virtual chip behind a plain serial-over-TCP bridge on loopback: each caller gets it fresh from its reset, with the flash as it was left. */
export async function serveChip(spec: ChipSpec, rate: number): Promise<{ port: number; server: Server }> {
  let stands: Uint8Array | null = null
  let faults = spec.faults
  const server = createServer((socket) => {
    socket.setNoDelay(true)
    const link = new VirtualLink({ ...spec, faults }, rate, stands)
    let open = true
    // One thing after the other: what is written is answered before anything else is heard.
    let last: Promise<void> = Promise.resolve()
    const then = (run: () => Promise<void>) => {
      last = last.then(run).catch(() => {
        socket.destroy()
      })
    }
    // Its clock goes on at least as fast as that of who waits for it.
    let heardAt = performance.now()
    const handOn = async () => {
      const passed = performance.now() - heardAt
      heardAt += passed
      for (
        let bytes = await link.read(Math.max(listenMs, passed));
        open && bytes.length > 0;
        bytes = await link.read(listenMs)
      )
        socket.write(bytes)
    }
    const timer = setInterval(() => then(handOn), idleMs)
    const over = () => {
      open = false
      stands = link.flash
      faults = faults.filter((f) => !link.happened.has(f))
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
