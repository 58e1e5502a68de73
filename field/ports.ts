import { randomUUID } from 'node:crypto'
import { readdir } from 'node:fs/promises'
import { createConnection } from 'node:net'

/**
 * Ports that the machine which runs the app opens for a page: a serial-over-TCP bridge that a person named, or an adapter of its own.
 * Bytes only; what they mean is the page's business. Nothing is looked for on a network.
 */
export interface FieldPort {
  can: { lines: boolean; rate: boolean }
  write: (bytes: Uint8Array) => Promise<void>
  setRate: (rate: number) => Promise<void>
  setLines: (lines: { dtr: boolean; rts: boolean }) => Promise<void>
  close: () => void
}
export interface Heard {
  bytes: (bytes: Uint8Array) => void
  /** It is gone, and why. */
  over: (why: string) => void
}

/** The port is named rightly and cannot be opened. */
export class PortClosed extends Error {}

const connectMs = 5000

/** A plain bridge: its rate is what it was set to, and it has no lines. */
export function openBridge(host: string, port: number, heard: Heard): Promise<FieldPort> {
  return new Promise((done, fail) => {
    const socket = createConnection({ host, port, timeout: connectMs })
    const refused = (why: string) => {
      socket.destroy()
      fail(new PortClosed(`${host}:${port}: ${why}`))
    }
    socket.once('timeout', () => refused('it does not answer'))
    socket.once('error', (cause) => refused(cause.message))
    socket.once('connect', () => {
      socket.removeAllListeners('error')
      socket.setTimeout(0)
      socket.setNoDelay(true)
      socket.on('data', (bytes) => heard.bytes(new Uint8Array(bytes as Buffer)))
      socket.on('error', (cause) => heard.over(cause.message))
      socket.on('close', () => heard.over('the bridge closed the line'))
      done({
        can: { lines: false, rate: false },
        write: (bytes) => new Promise((sent) => socket.write(bytes, () => sent())),
        setRate: async () => {},
        setLines: async () => {},
        close: () => socket.destroy(),
      })
    })
  })
}

/** Names that serial ports have on Linux. */
const serialName = /^(tty(S|USB|ACM|AMA|MFD|O|WCHUSB|XRUSB)|rfcomm)\d+$/

interface Listed {
  path: string
  manufacturer?: string | undefined
  serialNumber?: string | undefined
  vendorId?: string | undefined
  productId?: string | undefined
}
/** Serial ports of this machine. Where nothing is installed that knows what hangs at them (a bare server, a container), their names. */
export async function portsHere(
  list: () => Promise<Listed[]>,
  namesIn: (folder: string) => Promise<string[]> = readdir,
): Promise<Listed[]> {
  try {
    return await list()
  } catch (cause) {
    if ((cause as NodeJS.ErrnoException).code !== 'ENOENT') throw cause
    return (await namesIn('/dev')).filter((name) => serialName.test(name)).map((name) => ({ path: `/dev/${name}` }))
  }
}

/** Adapters of this machine, by what they say they are. */
export async function adaptersHere(): Promise<{ path: string; about: string }[]> {
  const { SerialPort } = await import('serialport')
  const ports = await portsHere(() => SerialPort.list())
  return (
    ports
      .map(({ path, manufacturer, serialNumber, vendorId, productId }) => ({
        path,
        about: [manufacturer, vendorId && productId ? `${vendorId}:${productId}` : null, serialNumber]
          .filter(Boolean)
          .join(', '),
      }))
      // What is no plug says nothing of itself: those come last.
      .sort((a, b) => Number(b.about !== '') - Number(a.about !== '') || a.path.localeCompare(b.path))
  )
}

/** An adapter of this machine. */
export async function openAdapter(path: string, rate: number, heard: Heard): Promise<FieldPort> {
  const { SerialPort } = await import('serialport')
  const port = new SerialPort({ path, baudRate: rate, autoOpen: false })
  const as = <T>(run: (then: (cause?: Error | null) => void) => T) =>
    new Promise<void>((done, fail) =>
      run((cause) => (cause ? fail(new PortClosed(`${path}: ${cause.message}`)) : done())),
    )
  await as((then) => port.open(then))
  port.on('data', (bytes: Buffer) => heard.bytes(new Uint8Array(bytes)))
  port.on('error', (cause) => heard.over(cause.message))
  port.on('close', () => heard.over('the adapter was unplugged'))
  return {
    can: { lines: true, rate: true },
    write: (bytes) => as((then) => port.write(Buffer.from(bytes), then)),
    setRate: (wanted) => as((then) => port.update({ baudRate: wanted }, then)),
    // Lines that an adapter does not have are no reason to stop.
    setLines: ({ dtr, rts }) => as((then) => port.set({ dtr, rts }, then)).catch(() => {}),
    close: () => port.close(() => {}),
  }
}

/** What has come over a port and was not fetched yet. */
interface Hearing {
  waiting: Uint8Array[]
  /** Whoever listens now. */
  listener: Heard | null
  over: string | null
}
/** One port that is open. */
export type Session = Hearing & { port: FieldPort }

const mostOpen = 4
// The server's routes are bundled one by one: what they share stands outside of them.
const shared = globalThis as unknown as { freshCoatPorts?: Map<string, Session> }
const sessions = (): Map<string, Session> => {
  shared.freshCoatPorts ??= new Map()
  return shared.freshCoatPorts
}

export type Wanted = { kind: 'bridge'; host: string; port: number } | { kind: 'adapter'; path: string; rate: number }

/** So long a port waits for the page that asked for it: one that was closed meanwhile must not keep it. */
const unheardMs = 10_000

/** Opens a port for a page. @throws PortClosed where it cannot be opened, or too many are open */
export async function openSession(wanted: Wanted, waitMs = unheardMs): Promise<{ id: string; can: FieldPort['can'] }> {
  if (sessions().size >= mostOpen) throw new PortClosed('too many ports are open: close one')
  const hearing: Hearing = { waiting: [], listener: null, over: null }
  const heard: Heard = {
    bytes: (bytes) => (hearing.listener ? hearing.listener.bytes(bytes) : hearing.waiting.push(bytes)),
    over: (why) => {
      if (hearing.over !== null) return
      hearing.over = why
      hearing.listener?.over(why)
    },
  }
  const port =
    wanted.kind === 'bridge'
      ? await openBridge(wanted.host, wanted.port, heard)
      : await openAdapter(wanted.path, wanted.rate, heard)
  const id = randomUUID()
  sessions().set(id, Object.assign(hearing, { port }))
  setTimeout(() => {
    if (hearing.listener === null) closeSession(id)
  }, waitMs).unref()
  return { id, can: port.can }
}
export const sessionOf = (id: string): Session | null => sessions().get(id) ?? null

/** Hears a session; what came before is told at once. Ends it where the listener goes away. */
export function listenTo(id: string, listener: Heard): (() => void) | null {
  const session = sessionOf(id)
  if (!session) return null
  session.listener = listener
  for (const bytes of session.waiting.splice(0)) listener.bytes(bytes)
  if (session.over !== null) listener.over(session.over)
  return () => closeSession(id)
}
export function closeSession(id: string): void {
  const session = sessions().get(id)
  if (!session) return
  sessions().delete(id)
  session.listener = null
  session.port.close()
}
