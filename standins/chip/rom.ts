import { md5Hex } from '@fresh-coat/core/bytes/digests'
import { factsOf, type LinkDie } from '@fresh-coat/core/families/families'
import { commandCodes } from '@fresh-coat/core/link/codes'
import { sectorBytes } from '@fresh-coat/core/link/erase'
import { blockChecksum } from '@fresh-coat/core/link/packet'
import { magicAddress, wordOf } from '@fresh-coat/core/link/registers'
import type { ChipSpec, Fault } from './chip-spec'
import { FlashArray } from './flash'

/** The loader in the ROM of a virtual chip: it behaves, and does not just answer. */

const status = { ok: 0, invalid: 5, failed: 6, checksum: 7, differs: 8 }
const syncAnswers = 8
const syncValue = 0x20120707
const erasedInBlock = 16
const secondsPerSector = 0.045
const secondsPerPage = 0.0007
const startSpi = 0x00040000
const programMagic = 0xe9
/** Where the ROM looks for what it starts. */
const bootOffsets: Record<ChipSpec['family'], number> = { LX106: 0, LX6: 0x1000, LX7: 0, RV32: 0 }

export interface Reply {
  /** Framed by the chip that sends it. */
  packet: Uint8Array
  /** How long the chip works before it answers, in ms. */
  workMs: number
  /** Not counted among the answers. */
  sync: boolean
  /** Which block it answers, counted from 1; null for another request. */
  block: number | null
}

interface Running {
  at: number
  blockBytes: number
  next: number
  blocks: number
}

export class Rom {
  readonly flash: FlashArray
  private readonly facts
  private readonly die: LinkDie
  private readonly registers = new Map<number, number>()
  private attached = false
  private running: Running | null = null
  /** The rate that set-rate asked for: it holds from the end of the answer on. */
  wantedRate: number | null = null
  /** It has left the loader. */
  left = false

  /** Blocks that came, whole or not. */
  private blocks = 0

  /** @param stands what stands in its flash already */
  constructor(
    private readonly spec: ChipSpec,
    stands: Uint8Array | null = null,
  ) {
    const { link } = factsOf(spec.family)
    if (!link) throw new Error(`there is no virtual ${spec.family}`)
    this.facts = link
    this.die = link.dies[0] as LinkDie
    const cells = <K extends 'weak' | 'unstable'>(kind: K) =>
      spec.faults.filter((f): f is Extract<Fault, { fault: K }> => f.fault === kind)
    this.flash = new FlashArray(spec.flashBytes, spec.seed, stands, cells('weak'), cells('unstable'))
    this.fill()
  }

  /** Registers as they stand after a reset. */
  private fill(): void {
    const { die, spec } = this
    const mac = spec.mac.split(':').map((x) => Number.parseInt(x, 16)) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ]
    const put = (address: number, value: number) => this.registers.set(address, value >>> 0)
    put(magicAddress, wordOf(die.magic[0] as string))
    const [a, b, c] = die.mac.map(wordOf) as [number, number, number | undefined]
    if (c === undefined) {
      put(a, (mac[2] << 24) | (mac[3] << 16) | (mac[4] << 8) | mac[5])
      put(b, 0xc3000000 | (0x5a << 16) | (mac[0] << 8) | mac[1])
    } else {
      put(a, mac[5] << 24)
      put(b, (mac[3] << 8) | mac[4])
      put(c, (mac[0] << 16) | (mac[1] << 8) | mac[2])
    }
    // An odd count of set bits.
    if (die.cipherWord) put(wordOf(die.cipherWord), spec.locked ? 1 << 20 : 0)
    put(this.spi(die.spi.user), 0x80000000)
    put(this.spi(die.spi.user2), 0x70000000)
  }

  /** Bytes that are on the line at this rate divide the crystal: what the ROM measures from the first sync. */
  measured(rate: number): void {
    const { uartDivider, crystalHalved } = this.die
    if (uartDivider === null) return
    const divider = Math.round((this.spec.crystalMhz * 1e6 * (crystalHalved ? 2 : 1)) / rate)
    this.registers.set(wordOf(uartDivider), divider)
  }

  private spi(offset: number): number {
    return wordOf(this.die.spi.base) + offset
  }

  /** A request as it came, without its frame; null where it is none. */
  answer(packet: Uint8Array): Reply[] {
    if (packet.length < 8 || packet[0] !== 0) return []
    const view = new DataView(packet.buffer, packet.byteOffset, packet.length)
    const [code, length] = [packet[1] as number, view.getUint16(2, true)]
    const data = packet.subarray(8)
    if (code === commandCodes.sync)
      return Array.from({ length: syncAnswers }, () => this.reply(code, status.ok, { value: syncValue, sync: true }))
    if (length !== data.length) return [this.reply(code, status.invalid)]
    return [this.run(code, data, packet[4] as number)]
  }

  private reply(
    code: number,
    failed: number,
    more: { value?: number; data?: Uint8Array; workMs?: number; sync?: boolean } = {},
  ): Reply {
    const { value = 0, data = new Uint8Array(0), workMs = 0, sync = false } = more
    const length = data.length + this.facts.statusBytes
    const packet = new Uint8Array(8 + length)
    const view = new DataView(packet.buffer)
    view.setUint8(0, 1)
    view.setUint8(1, code)
    view.setUint16(2, length, true)
    view.setUint32(4, value >>> 0, true)
    packet.set(data, 8)
    if (failed) {
      packet[8 + data.length] = 1
      packet[9 + data.length] = failed
    }
    return { packet, workMs, sync, block: code === commandCodes['flash-data'] ? this.blocks : null }
  }

  /** A program stands where it looks for one; what came from the shop always does. */
  get runs(): boolean {
    return !this.flash.changed || this.flash.bytes[bootOffsets[this.spec.family]] === programMagic
  }
  /** What it says when it starts from flash: the shop's program, the one that was written, or that it finds none. */
  startsWhatWasWritten(program: string): string {
    if (!this.flash.changed) return program
    const first = program.trimStart().split('\r\n')[0]
    const end = this.spec.mac.replaceAll(':', '').slice(-4).toUpperCase()
    return this.runs
      ? program.replace('hello from the shop', `hello from the new coat\r\nair of my own: plainsong-${end}`)
      : `\r\n${first}\r\ninvalid header: 0xffffffff\r\n`
  }

  /** A reset forgets everything but what stands in the flash. */
  restart(): void {
    this.attached = false
    this.running = null
    this.wantedRate = null
    this.left = false
    this.registers.clear()
    this.fill()
  }

  private run(code: number, data: Uint8Array, checksum: number): Reply {
    const view = new DataView(data.buffer, data.byteOffset, data.length)
    const word = (i: number) => (4 * i + 4 <= data.length ? view.getUint32(4 * i, true) : 0)
    const words = Math.floor(data.length / 4)
    const lacks = (name: keyof typeof commandCodes) => (this.facts.lacks as readonly string[]).includes(name)
    const say = (failed: number, more = {}) => this.reply(code, failed, more)
    const wants = (n: number, then: () => Reply): Reply => (words === n ? then() : say(status.invalid))
    switch (code) {
      case commandCodes['read-register']:
        return wants(1, () => say(status.ok, { value: this.registers.get(word(0)) ?? 0 }))
      case commandCodes['write-register']:
        return wants(4, () => {
          this.store(word(0), word(1))
          return say(status.ok)
        })
      case commandCodes['flash-begin']:
        return wants(this.facts.beginWords, () => this.begin(say, [word(0), word(1), word(2), word(3)]))
      case commandCodes['flash-data']:
        this.blocks++
        return this.block(say, data, checksum)
      case commandCodes['flash-end']:
        return wants(1, () => {
          this.left = true
          return say(status.ok)
        })
      case commandCodes['spi-attach']:
        if (lacks('spi-attach')) return say(status.invalid)
        return wants(2, () => {
          this.attached = true
          return say(status.ok)
        })
      case commandCodes['spi-parameters']:
        return lacks('spi-parameters') ? say(status.invalid) : wants(6, () => say(status.ok))
      case commandCodes['set-rate']:
        if (lacks('set-rate')) return say(status.invalid)
        return wants(2, () => {
          this.wantedRate = word(0)
          return say(status.ok)
        })
      case commandCodes['flash-read']:
        return lacks('flash-read') ? say(status.invalid) : wants(2, () => this.readRom(say, word(0), word(1)))
      case commandCodes['flash-digest']:
        return lacks('flash-digest') ? say(status.invalid) : wants(4, () => this.digest(say, word(0), word(1)))
      case commandCodes['security-info']:
        return lacks('security-info') ? say(status.invalid) : wants(0, () => say(status.ok, { data: this.security() }))
      default:
        return say(status.invalid)
    }
  }

  private security(): Uint8Array {
    const withId = this.die.chipId !== null
    const out = new Uint8Array(withId ? 20 : 12)
    out[4] = this.spec.locked ? 1 : 0
    if (withId) new DataView(out.buffer).setUint32(12, this.die.chipId as number, true)
    return out
  }

  private readRom(say: Say, offset: number, bytes: number): Reply {
    if (!this.attached || bytes > 64) return say(status.failed)
    const data = new Uint8Array(64)
    data.set(this.flash.read(offset, bytes))
    return say(status.ok, { data })
  }

  private digest(say: Say, offset: number, bytes: number): Reply {
    if (!this.attached || offset + bytes > this.spec.flashBytes) return say(status.failed)
    const text = md5Hex(this.flash.bytes.subarray(offset, offset + bytes))
    return say(status.ok, { data: Uint8Array.from(text, (c) => c.charCodeAt(0)) })
  }

  private begin(say: Say, [size, blocks, blockBytes, offset]: [number, number, number, number]): Reply {
    if (size === 0 && blocks === 0) {
      if (this.facts.lacks.includes('spi-attach')) this.attached = true
      return say(this.attached ? status.ok : status.failed)
    }
    if (!this.attached || offset + blocks * blockBytes > this.spec.flashBytes + blockBytes) return say(status.failed)
    const told = Math.ceil(size / sectorBytes)
    const sector = Math.floor(offset / sectorBytes)
    const twice = this.facts.erase === 'in-pairs' ? Math.min(erasedInBlock - (sector % erasedInBlock), told) : 0
    this.flash.erase(sector, told + twice)
    this.running = { at: offset, blockBytes, next: 0, blocks }
    return say(status.ok, { workMs: (told + twice) * secondsPerSector * 1000 })
  }

  private block(say: Say, data: Uint8Array, checksum: number): Reply {
    const run = this.running
    if (!run || data.length < 16) return say(status.invalid)
    const head = new DataView(data.buffer, data.byteOffset, 16)
    const [length, sequence] = [head.getUint32(0, true), head.getUint32(4, true)]
    const block = data.subarray(16)
    if (length !== block.length || block.length !== run.blockBytes) return say(status.invalid)
    if (blockChecksum(block) !== checksum) return say(status.checksum)
    if (this.spec.sequence === 'strict' && sequence !== run.next) return say(status.invalid)
    if (run.next >= run.blocks) return say(status.failed)
    const written = this.flash.program(run.at + run.next * run.blockBytes, block)
    run.next++
    return say(written ? status.ok : status.differs, { workMs: (block.length / 256) * secondsPerPage * 1000 })
  }

  /** A register that is written; the command register of the flash controller starts what the others prepared. */
  private store(address: number, value: number): void {
    this.registers.set(address, value)
    if (address !== this.spi(0)) return
    this.registers.set(address, 0)
    const user = this.registers.get(this.spi(this.die.spi.user)) ?? 0
    const user2 = this.registers.get(this.spi(this.die.spi.user2)) ?? 0
    const command = user2 & 0xff
    const put = (bytes: Uint8Array) => {
      for (let i = 0; i < 16; i++) {
        const word = [0, 1, 2, 3].reduce((w, b) => w | ((bytes[4 * i + b] ?? 0) << (8 * b)), 0)
        if (4 * i < bytes.length) this.registers.set(this.spi(this.die.spi.w0) + 4 * i, word >>> 0)
      }
    }
    if (!this.attached) return put(Uint8Array.from([0xff, 0xff, 0xff, 0xff]))
    if (value === 0x10000000 || (value === startSpi && command === 0x9f))
      return put(Uint8Array.from([...(this.spec.flashId.match(/../g) ?? []).map((h) => Number.parseInt(h, 16)), 0]))
    if (value === startSpi && command === 0x03 && (user & 0x40000000) !== 0)
      put(this.flash.read((this.registers.get(this.spi(0x04)) ?? 0) >>> 8, 64))
  }
}

type Say = (failed: number, more?: { value?: number; data?: Uint8Array; workMs?: number }) => Reply
