import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createConnection, type Socket } from 'node:net'
import { dirname, resolve } from 'node:path'
import type { ByteLink, LostWhy } from '@fresh-coat/core/link/byte-link'
import { Inbox } from '../../link/inbox'
import { ChipSpec } from '../../standins/chip/chip-spec'
import { VirtualLink } from '../../standins/chip/virtual-link'
import { UsageError } from '../usage'

/** Ports as they are named on the command line: tcp:HOST:PORT, or virtual:FILE. */

export interface Opened {
  link: ByteLink
  /** True for the virtual chip; null where nobody can know what stands behind the port. */
  virtual: true | null
}
/** The port is named rightly and cannot be opened. */
export class PortFailed extends Error {}

const connectMs = 5000

/** A plain serial-over-TCP bridge: bytes only. Its rate is what the bridge was set to, and entering is by hand. */
class TcpLink implements ByteLink {
  readonly kind = 'tcp' as const
  readonly can = { lines: false, rate: false }
  private readonly inbox = new Inbox()

  constructor(private readonly socket: Socket) {
    socket.setNoDelay(true)
    socket.on('data', (bytes) => this.inbox.push(new Uint8Array(bytes as Buffer)))
    socket.on('error', (cause) => this.inbox.lose('error', cause.message))
    socket.on('close', () => this.inbox.lose('unplugged', 'the socket was closed'))
  }
  now(): number {
    return performance.now()
  }
  read(withinMs: number): Promise<Uint8Array> {
    return this.inbox.read(withinMs)
  }
  async write(bytes: Uint8Array): Promise<void> {
    this.inbox.check()
    await new Promise<void>((done) => this.socket.write(bytes, () => done()))
  }
  async setLines(): Promise<void> {}
  async changeRate(): Promise<void> {}
  async close(): Promise<void> {
    this.inbox.closed()
    this.socket.destroy()
  }
  onLost(tell: (why: LostWhy, text: string) => void): () => void {
    return this.inbox.onLost(tell)
  }
}

/** A virtual chip whose flash lives on in its file. */
class Persistent extends VirtualLink {
  constructor(
    spec: ChipSpec,
    rate: number,
    stands: Uint8Array | null,
    private readonly path: string,
  ) {
    super(spec, rate, stands)
  }
  override async close(): Promise<void> {
    await super.close()
    writeFileSync(this.path, this.flash)
  }
}

function virtualChip(path: string, rate: number): VirtualLink {
  let read: unknown
  try {
    read = JSON.parse(readFileSync(path, 'utf8'))
  } catch (cause) {
    throw new PortFailed(`${path} cannot be read as JSON: ${cause instanceof Error ? cause.message : String(cause)}`)
  }
  const spec = ChipSpec.safeParse(read)
  if (!spec.success) {
    const issue = spec.error.issues[0]
    throw new PortFailed(`${path} describes no virtual chip: /${issue?.path.join('/') ?? ''}: ${issue?.message ?? ''}`)
  }
  const { flashFile, persist } = spec.data
  if (flashFile === undefined) return new VirtualLink(spec.data, rate)
  const flash = resolve(dirname(path), flashFile)
  const stands = existsSync(flash) ? new Uint8Array(readFileSync(flash)) : null
  if (stands === null && !persist) throw new PortFailed(`${flash} is not there: what stands in the virtual chip`)
  return persist ? new Persistent(spec.data, rate, stands, flash) : new VirtualLink(spec.data, rate, stands)
}

const connect = (host: string, port: number) =>
  new Promise<Socket>((done, fail) => {
    const socket = createConnection({ host, port, timeout: connectMs })
    socket.once('connect', () => {
      socket.setTimeout(0)
      done(socket)
    })
    socket.once('timeout', () => {
      socket.destroy()
      fail(new PortFailed(`${host}:${port} does not answer`))
    })
    socket.once('error', (cause) => fail(new PortFailed(`${host}:${port}: ${cause.message}`)))
  })

type Named = { virtual: true; file: string } | { virtual: null; host: string; port: number }

/** What a port is called. @throws UsageError where it is named wrongly */
export function portNamed(name: string | undefined): Named {
  if (name === undefined) throw new UsageError('--port is missing: tcp:HOST:PORT or virtual:FILE')
  const [, file] = /^virtual:(.+)$/.exec(name) ?? []
  if (file) return { virtual: true, file }
  const [, host, port] = /^tcp:(?:\[(?=.*\]))?([^\s[\]]+?)\]?:(\d{1,5})$/.exec(name) ?? []
  if (!host || Number(port) < 1 || Number(port) > 65_535)
    throw new UsageError(`${name} is no port: tcp:HOST:PORT or virtual:FILE`)
  return { virtual: null, host, port: Number(port) }
}

/** Opens a port. @throws UsageError where it is named wrongly, PortFailed where it cannot be opened */
export async function openPort(name: string | undefined, rate: number): Promise<Opened> {
  const named = portNamed(name)
  if (named.virtual) return { link: virtualChip(named.file, rate), virtual: true }
  return { link: new TcpLink(await connect(named.host, named.port)), virtual: null }
}
