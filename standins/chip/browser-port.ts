import type { BrowserPort } from '@/components/link/web-serial'
import type { ChipSpec } from './chip-spec'
import { VirtualLink } from './virtual-link'

/** A virtual chip as a port of the browser: what speaks to real ports speaks to it, by the same code. */

const listenMs = 20
/** So long the page may be kept busy in one go: the virtual chip answers without ever waiting. */
const mostBusyMs = 12

export class VirtualPort implements BrowserPort {
  readable: ReadableStream<Uint8Array> | null = null
  writable: WritableStream<Uint8Array> | null = null
  private readonly heard = new Set<() => void>()
  private link: VirtualLink | null = null
  private strap: 'held' | 'free'
  private powered = true
  private pulled = false
  private open_ = false
  /** Counts openings: what still pulls for an earlier one must not take bytes from this one. */
  private opening = 0
  private busySince = performance.now()
  private wake: (() => void) | null = null

  /** @param stands what stands in its flash already */
  constructor(
    readonly spec: ChipSpec,
    private stands: Uint8Array | null = null,
  ) {
    this.strap = spec.strap
  }
  /** What stands in its flash now; null before it was opened once. */
  get flash(): Uint8Array | null {
    return this.link?.flash ?? this.stands
  }
  getInfo(): { usbVendorId?: number } {
    return {}
  }
  /** Hands on the module: BOOT held or let go, which counts at its next reset. */
  hold(strap: 'held' | 'free'): void {
    this.strap = strap
  }
  /** Its supply, off and on. */
  power(on: boolean): void {
    if (on && !this.powered) this.link?.restart(this.strap)
    this.powered = on
  }
  get isPowered(): boolean {
    return this.powered
  }
  /** The plug is pulled out of the computer. */
  unplug(): void {
    for (const tell of this.heard) tell()
    this.open_ = false
  }

  async open({ baudRate }: { baudRate: number }): Promise<void> {
    if (this.open_) throw new Error('the port is open already')
    this.open_ = true
    if (this.link) await this.link.changeRate(baudRate)
    else this.link = new VirtualLink({ ...this.spec, strap: this.strap, faults: this.faults() }, baudRate, this.stands)
    const link = this.link
    const mine = ++this.opening
    const stillOpen = () => this.open_ && this.opening === mine
    this.readable = new ReadableStream<Uint8Array>({
      pull: async (to) => {
        while (stillOpen()) {
          await this.rest()
          if (!stillOpen()) break
          const bytes = await link.read(listenMs).catch(() => null)
          if (bytes === null) {
            // Its own fault pulled the plug: once it is in again, the same chip stands behind it.
            this.unplug()
            this.pulled = true
            this.link = null
            this.stands = link.flash
            return to.close()
          }
          if (!stillOpen()) break
          if (bytes.length > 0 && this.powered) return to.enqueue(bytes)
          if (bytes.length === 0 && this.spec.factor === 0) await this.written()
        }
        if (this.opening === mine) to.close()
      },
    })
    this.writable = new WritableStream<Uint8Array>({
      write: async (bytes) => {
        if (this.powered) await link.write(bytes).catch(() => {})
        this.wake?.()
      },
    })
  }
  /** A plug is pulled once. */
  private faults(): ChipSpec['faults'] {
    return this.pulled ? this.spec.faults.filter((f) => f.fault !== 'unplug') : this.spec.faults
  }
  /** Lets the page draw: a chip of promises alone would never give it a turn. */
  private async rest(): Promise<void> {
    if (performance.now() - this.busySince < mostBusyMs) return
    await new Promise((done) => setTimeout(done, 0))
    this.busySince = performance.now()
  }
  /** Until something is written to it, or a moment has passed. */
  private async written(): Promise<void> {
    await new Promise<void>((done) => {
      const timer = setTimeout(done, listenMs)
      this.wake = () => {
        clearTimeout(timer)
        done()
      }
    })
    this.wake = null
  }
  async close(): Promise<void> {
    this.open_ = false
    this.readable = null
    this.writable = null
  }
  async setSignals(signals: { dataTerminalReady: boolean; requestToSend: boolean }): Promise<void> {
    await this.link?.setLines({ dtr: signals.dataTerminalReady, rts: signals.requestToSend })
  }
  addEventListener(_: 'disconnect', heard: () => void): void {
    this.heard.add(heard)
  }
  removeEventListener(_: 'disconnect', heard: () => void): void {
    this.heard.delete(heard)
  }
}
