import { receiveAt } from '@fresh-coat/core/boot/boot-log'
import { type ByteLink, LineLost, type LostWhy } from '@fresh-coat/core/link/byte-link'
import { slipEncode, slipUnescape } from '@fresh-coat/core/link/slip'
import { seededRandom } from '../random'
import type { ChipSpec, Fault } from './chip-spec'
import { Program } from './program'
import { type Reply, Rom } from './rom'

/** A line to a virtual chip, with a clock of its own: the same bytes and faults for the same file, on every machine. */

const bitsPerByte = 10
const end = 0xc0
const newLine = 0x0a
const longestLine = 200
const bootText: Record<ChipSpec['family'], { rate: number; download: string; program: string }> = {
  LX106: {
    rate: 74_880,
    download: '\r\n ets Jan  8 2013,rst cause:1, boot mode:(1,6)\r\n',
    program:
      '\r\n ets Jan  8 2013,rst cause:1, boot mode:(3,6)\r\n\r\nload 0x40100000, len 1392, room 16\r\nhello from the shop\r\n',
  },
  LX6: {
    rate: 115_200,
    download:
      'rst:0x1 (POWERON_RESET),boot:0x3 (DOWNLOAD_BOOT(UART0/UART1/SDIO_REI_REO_V2))\r\nwaiting for download\r\n',
    program: 'rst:0x1 (POWERON_RESET),boot:0x13 (SPI_FAST_FLASH_BOOT)\r\nhello from the shop\r\n',
  },
  LX7: {
    rate: 115_200,
    download: 'rst:0x1 (POWERON),boot:0x0 (DOWNLOAD(USB/UART0))\r\nwaiting for download\r\n',
    program: 'rst:0x1 (POWERON),boot:0x8 (SPI_FAST_FLASH_BOOT)\r\nhello from the shop\r\n',
  },
  RV32: {
    rate: 115_200,
    download: 'rst:0x1 (POWERON),boot:0x5 (DOWNLOAD(USB/UART0/1))\r\nwaiting for download\r\n',
    program: 'rst:0x1 (POWERON),boot:0xd (SPI_FAST_FLASH_BOOT)\r\nhello from the shop\r\n',
  },
}
/** A program that runs says something again and again. */
const programSpeaksEveryMs = 400
/** What it says of itself once it runs comes at this rate, whatever that of the boot text was. */
const programRate = 115_200

const leastTimerMs = 12

interface Sent {
  at: number
  bytes: Uint8Array
}

/** Bytes of one direction with the planned faults of single bytes in them. */
class Wire {
  private seen = 0
  private readonly times = new Map<object, number>()
  constructor(private readonly faults: readonly Extract<Fault, { to: unknown }>[]) {}
  private hits(f: Extract<Fault, { to: unknown }>): boolean {
    if (f.every === undefined) return f.at === this.seen
    const from = f.at ?? f.every
    if (this.seen < from || (this.seen - from) % f.every !== 0) return false
    const times = (this.times.get(f) ?? 0) + 1
    this.times.set(f, times)
    return times <= (f.count ?? Number.POSITIVE_INFINITY)
  }
  through(bytes: Uint8Array): Uint8Array {
    const out: number[] = []
    for (const byte of bytes) {
      this.seen++
      const fault = this.faults.find((f) => this.hits(f))?.fault
      if (fault === 'drop') continue
      out.push(fault === 'flip' ? byte ^ 0x10 : byte)
      if (fault === 'duplicate') out.push(byte)
    }
    return Uint8Array.from(out)
  }
}

export class VirtualLink implements ByteLink {
  readonly kind = 'virtual' as const
  readonly can
  private time = 0
  private queue: Sent[] = []
  private pending: number[] = []
  private rate: number
  /** What the chip measured from the first sync; null before it. */
  private chipRate: number | null = null
  private readonly rom: Rom
  private readonly ran = new Program()
  private startedAt = 0
  private readonly listeners = new Set<(why: LostWhy, text: string) => void>()
  private requests = 0
  private answers = 0
  private fromChip = 0
  private gone: LostWhy | null = null
  private spokeAt = 0
  private owedMs = 0
  private inReset = false
  /** A plug that was pulled, a supply that gave way: what happens to a unit once. */
  readonly happened = new Set<Fault>()
  private readonly toChip: Wire
  private readonly toHost: Wire

  /** Is BOOT low at its next reset? */
  private strapHeld: boolean

  /** @param stands what stands in its flash already */
  constructor(
    readonly spec: ChipSpec,
    rate: number,
    stands: Uint8Array | null = null,
  ) {
    this.rate = rate
    this.strapHeld = spec.strap === 'held'
    this.can = { lines: spec.lines !== 'none', rate: true }
    this.rom = new Rom(spec, stands)
    const bytewise = (to: 'chip' | 'host') =>
      spec.faults.filter((f): f is Extract<Fault, { to: unknown }> => 'to' in f && f.to === to)
    this.toChip = new Wire(bytewise('chip'))
    this.toHost = new Wire(bytewise('host'))
    this.boot()
    for (const f of spec.faults) if (f.fault === 'garbage') this.emit(this.garbage(f.bytes), 0)
  }

  /** What stands in its flash now. */
  get flash(): Uint8Array {
    return this.rom.flash.bytes
  }
  private get loader(): boolean {
    return this.strapHeld && !this.rom.left
  }
  /** What it says when it comes out of its reset. */
  private boot(): void {
    const { rate, download, program } = bootText[this.spec.family]
    this.ran.restart()
    this.startedAt = this.time
    if (this.loader) return this.speak(download, rate)
    this.speak(this.rom.startsWhatWasWritten(program), rate)
  }
  /**
   * Power off and on, or a reset, with BOOT held or free: rate, attach and a running write are forgotten, the flash is not.
   */
  restart(strap: 'held' | 'free'): void {
    this.strapHeld = strap === 'held'
    this.chipRate = null
    this.pending = []
    this.rom.restart()
    this.boot()
  }
  private of<K extends Fault['fault']>(kind: K): Extract<Fault, { fault: K }>[] {
    return this.spec.faults.filter((f): f is Extract<Fault, { fault: K }> => f.fault === kind)
  }
  private garbage(count: number): Uint8Array {
    const random = seededRandom(this.spec.seed + 17)
    return Uint8Array.from({ length: count }, () => Math.floor(random() * 256))
  }
  /** Text of the part at its own rate, as this adapter hears it. */
  private speak(text: string, rate: number): void {
    const bytes = Uint8Array.from(text, (c) => c.charCodeAt(0))
    this.emit(rate === this.rate ? bytes : receiveAt(bytes, rate, this.rate), 0)
  }
  private emit(bytes: Uint8Array, workMs: number): void {
    const passed = this.toHost.through(bytes)
    const onLine = (passed.length * bitsPerByte * 1000) / this.rate
    const last = this.queue.at(-1)?.at ?? 0
    this.queue.push({ at: Math.max(this.time + workMs + this.spec.latencyMs, last) + onLine, bytes: passed })
  }

  now(): number {
    return this.time
  }
  /** Time goes on to a moment, exactly: a sum of steps would come to rest a hair before it. */
  private async passTo(moment: number): Promise<void> {
    const ms = moment - this.time
    this.time = moment
    // Small waits are saved up: a timer cannot wait for less than some milliseconds.
    this.owedMs += ms * this.spec.factor
    if (this.owedMs >= leastTimerMs) {
      const wait = this.owedMs
      this.owedMs = 0
      await new Promise((done) => setTimeout(done, wait))
    }
    if (!this.loader && this.rom.runs && this.time - this.spokeAt > programSpeaksEveryMs) {
      this.spokeAt = this.time
      this.speak('status: still here\r\n', programRate)
    }
  }

  async read(withinMs: number): Promise<Uint8Array> {
    this.check()
    const first = this.queue[0]
    if (!first || first.at > this.time + withinMs) {
      await this.passTo(this.time + withinMs)
      return new Uint8Array(0)
    }
    if (first.at > this.time) await this.passTo(first.at)
    const due = this.queue.filter((s) => s.at <= this.time)
    this.queue = this.queue.filter((s) => s.at > this.time)
    const bytes = Uint8Array.from(due.flatMap((s) => [...s.bytes]))
    this.fromChip += bytes.length
    const [unplug] = this.of('unplug')
    if (unplug && this.fromChip >= unplug.after) {
      this.happened.add(unplug)
      this.lose('unplugged', 'the plug was pulled')
    }
    return bytes
  }

  async write(bytes: Uint8Array): Promise<void> {
    this.check()
    await this.passTo(this.time + (bytes.length * bitsPerByte * 1000) / this.rate)
    if (this.of('echo').length > 0) {
      this.emit(bytes, 0)
      return
    }
    for (const byte of this.toChip.through(bytes)) this.hear(byte)
  }

  /** The program that runs answers every line that it hears at its rate. */
  private program(byte: number): void {
    if (!this.rom.runs || this.rate !== programRate) return
    if (byte !== newLine) {
      if (this.pending.length < longestLine) this.pending.push(byte)
      return
    }
    const line = String.fromCharCode(...this.pending).trim()
    this.pending = []
    const answer = this.ran.answer(line, (this.time - this.startedAt) / 1000)
    this.speak(`${answer.say}\r\n`, programRate)
    if (answer.restart) this.restart('free')
  }

  /** A byte that reaches the chip; a frame is answered once its second END is there. */
  private hear(byte: number): void {
    if (!this.loader) return this.program(byte)
    if (byte !== end) {
      this.pending.push(byte)
      return
    }
    const piece = Uint8Array.from(this.pending)
    this.pending = []
    if (piece.length === 0) return
    // Before the first sync it measures the rate; afterwards another rate is noise to it.
    if (this.chipRate !== null && this.chipRate !== this.rate) return
    const packet = slipUnescape(piece)
    if (!packet) return
    const sync = packet[1] === 0x08
    if (this.chipRate === null && !sync) return
    if (this.chipRate === null) {
      this.chipRate = this.rate
      this.rom.measured(this.rate)
    }
    if (!sync) this.requests++
    if (!sync && this.of('mute').some((m) => this.requests >= m.request && this.requests < m.request + m.count)) return
    for (const reply of this.rom.answer(packet)) {
      const brownout = reply.block === null ? undefined : this.of('brownout').find((f) => f.block === reply.block)
      if (brownout) {
        this.happened.add(brownout)
        return this.restart(brownout.strap)
      }
      this.send(reply)
    }
    if (this.rom.wantedRate !== null) {
      this.chipRate = this.rom.wantedRate
      this.rom.wantedRate = null
    }
  }

  private send({ packet, workMs, sync, block }: Reply): void {
    if (!sync) this.answers++
    const mine = (n: number | undefined) => !sync && n === this.answers
    if (this.of('lose').some((f) => mine(f.answer) || (block !== null && f.block === block))) return
    for (const f of this.of('text')) if (mine(f.answer)) this.speak(f.text, this.rate)
    const late = this.of('late').find((f) => mine(f.answer))?.ms ?? 0
    this.emit(slipEncode(packet), workMs + late)
  }

  /** Through the usual two transistors a line acts only while the other is idle; wired directly each acts by itself. */
  async setLines({ dtr, rts }: { dtr: boolean; rts: boolean }): Promise<void> {
    this.check()
    if (this.spec.lines === 'none') return
    const alone = this.spec.lines === 'circuit'
    const reset = alone ? rts && !dtr : rts
    const bootLow = alone ? dtr && !rts : dtr
    if (this.inReset && !reset) this.restart(bootLow || this.spec.strap === 'held' ? 'held' : 'free')
    this.inReset = reset
  }
  async changeRate(rate: number): Promise<void> {
    this.check()
    this.rate = rate
  }
  async close(): Promise<void> {
    this.gone ??= 'closed'
  }
  onLost(tell: (why: LostWhy, text: string) => void): () => void {
    this.listeners.add(tell)
    return () => this.listeners.delete(tell)
  }
  private lose(why: LostWhy, text: string): void {
    this.gone = why
    for (const tell of this.listeners) tell(why, text)
  }
  private check(): void {
    if (this.gone) throw new LineLost(this.gone, 'the line is gone')
  }
}
