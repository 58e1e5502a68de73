import type { ByteLink, LostWhy } from '@fresh-coat/core/link/byte-link'
import { Inbox } from '@/link/inbox'

/** The browser's serial ports as lines to a chip. What is used of them is written down here: a stand-in has the same. */
export interface BrowserPort {
  readonly readable: ReadableStream<Uint8Array> | null
  readonly writable: WritableStream<Uint8Array> | null
  open(options: { baudRate: number; bufferSize: number; flowControl: 'none' }): Promise<void>
  close(): Promise<void>
  setSignals(signals: { dataTerminalReady: boolean; requestToSend: boolean }): Promise<void>
  getInfo(): { usbVendorId?: number; usbProductId?: number }
  addEventListener(type: 'disconnect', heard: () => void): void
  removeEventListener(type: 'disconnect', heard: () => void): void
}
interface BrowserSerial {
  /** Only in a person's press. */
  requestPort(): Promise<BrowserPort>
}

export type SerialHere = { serial: BrowserSerial } | { why: string; instead: string }

/** Whether this browser can open a port, and why not. */
export function serialHere(): SerialHere {
  const instead =
    'Set another port below, use any tool and bring its files, or open this page in Chromium on the computer with the adapter.'
  if (!window.isSecureContext)
    return {
      why: 'A page that did not come over HTTPS, or from this computer itself, may open no serial port.',
      instead,
    }
  const { serial } = navigator as { serial?: BrowserSerial }
  return serial ? { serial } : { why: 'This browser has no serial ports.', instead }
}

const bufferSize = 65_536

/**
 * A port of the browser. Its rate cannot be changed while it is open: it is closed and opened anew. Opening often raises both lines,
 * so both are put off at once.
 */
export class WebSerialLink implements ByteLink {
  readonly kind = 'web-serial' as const
  readonly can = { lines: true, rate: true }
  private readonly inbox = new Inbox()
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null
  private writer: WritableStreamDefaultWriter<Uint8Array> | null = null
  private pumping: Promise<void> = Promise.resolve()
  private open = false
  private readonly unplugged = () => this.inbox.lose('unplugged', 'the adapter was unplugged')

  private constructor(private readonly port: BrowserPort) {}

  /** @throws whatever the browser says, where the port cannot be opened */
  static async open(port: BrowserPort, rate: number): Promise<WebSerialLink> {
    const link = new WebSerialLink(port)
    port.addEventListener('disconnect', link.unplugged)
    await link.begin(rate)
    return link
  }

  private async begin(rate: number): Promise<void> {
    await this.port.open({ baudRate: rate, bufferSize, flowControl: 'none' })
    this.open = true
    await this.setLines({ dtr: false, rts: false })
    this.writer = this.port.writable?.getWriter() ?? null
    this.pumping = this.pump()
  }
  /** An overrun or a wrong stop bit ends the stream and leaves the port: another stream is there, and the bytes are lost. */
  private async pump(): Promise<void> {
    while (this.open && this.port.readable) {
      const reader = this.port.readable.getReader()
      this.reader = reader
      try {
        for (let part = await reader.read(); !part.done; part = await reader.read()) this.inbox.push(part.value)
        // Ended, not broken: by us, or for good.
        break
      } catch {
        // The next stream goes on where this one broke.
      } finally {
        reader.releaseLock()
      }
    }
    if (this.open) this.inbox.lose('error', 'the port gives no more bytes')
  }
  private async end(): Promise<void> {
    this.open = false
    await this.reader?.cancel().catch(() => {})
    await this.pumping
    this.writer?.releaseLock()
    this.writer = null
    await this.port.close().catch(() => {})
  }

  now(): number {
    return performance.now()
  }
  read(withinMs: number): Promise<Uint8Array> {
    return this.inbox.read(withinMs)
  }
  async write(bytes: Uint8Array): Promise<void> {
    this.inbox.check()
    await this.orLost(async () => this.writer?.write(bytes))
  }
  /** An adapter that is pulled breaks whatever is under way, before anybody is told that it is gone. */
  private async orLost(act: () => Promise<unknown>): Promise<void> {
    try {
      await act()
    } catch (cause) {
      this.inbox.lose('error', cause instanceof Error ? cause.message : String(cause))
      this.inbox.check()
    }
  }
  async setLines({ dtr, rts }: { dtr: boolean; rts: boolean }): Promise<void> {
    // An adapter that has no such lines refuses them, and works all the same.
    await this.port.setSignals({ dataTerminalReady: dtr, requestToSend: rts }).catch(() => {})
  }
  async changeRate(rate: number): Promise<void> {
    await this.orLost(async () => {
      await this.end()
      await this.begin(rate)
    })
  }
  async close(): Promise<void> {
    this.inbox.closed()
    this.port.removeEventListener('disconnect', this.unplugged)
    await this.end()
  }
  onLost(tell: (why: LostWhy, text: string) => void): () => void {
    return this.inbox.onLost(tell)
  }
}
