import { createServer, type Server } from 'node:net'
import { Aedes } from 'aedes'

/** A broker of our own on loopback, for the demo and for tests. */
export interface StandInBroker {
  port: number
  end: () => Promise<void>
}

/** @param user who is let in with which password; without one, everybody is */
export async function standInBroker(
  port = 0,
  user: { name: string; password: string } | null = null,
): Promise<StandInBroker> {
  const broker = await Aedes.createBroker()
  if (user)
    broker.authenticate = (_, name, password, done) => {
      const right = name === user.name && password?.toString() === user.password
      done(right ? null : Object.assign(new Error('refused'), { returnCode: 4 }), right)
    }
  const sockets = new Set<import('node:net').Socket>()
  const server: Server = createServer((socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
    broker.handle(socket)
  })
  await new Promise<void>((done, fail) => {
    server.once('error', fail)
    server.listen(port, '127.0.0.1', done)
  })
  const address = server.address()
  return {
    port: typeof address === 'object' && address ? address.port : port,
    end: async () => {
      for (const s of sockets) s.destroy()
      await new Promise<void>((done) => broker.close(() => done()))
      await new Promise<void>((done) => server.close(() => done()))
    },
  }
}
