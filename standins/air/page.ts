import { createServer } from 'node:http'
import type { VirtualUnitOnAir } from './plug'

/** The pages of a virtual unit: what its Thing Description says it answers over HTTP, on loopback. */
export async function unitPages(unit: VirtualUnitOnAir): Promise<{ port: number; end: () => Promise<void> }> {
  const server = createServer((request, response) => {
    const say = (code: number, value?: unknown) => {
      response.writeHead(code, { 'content-type': 'application/json' })
      response.end(value === undefined ? undefined : JSON.stringify(value))
    }
    const path = request.url ?? '/'
    const channel = /^\/channels\/([^/]+)\/on$/.exec(path)?.[1]
    if (channel !== undefined && request.method === 'GET') {
      const on = unit.isOn(channel)
      return on === null ? say(404) : say(200, on)
    }
    if (channel !== undefined && request.method === 'PUT') {
      let body = ''
      request.on('data', (piece) => {
        body += piece
      })
      request.on('end', () => {
        if (body !== 'true' && body !== 'false') return say(400)
        say(unit.switchTo(channel, body === 'true') ? 204 : 404)
      })
      return
    }
    if (path === '/power' && request.method === 'GET' && unit.drawnW !== null) return say(200, unit.drawnW)
    say(404)
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const address = server.address()
  return {
    port: typeof address === 'object' && address ? address.port : 0,
    end: () =>
      new Promise((done) => {
        server.closeAllConnections()
        server.close(() => done())
      }),
  }
}
