import { hexOf } from '../bytes/text'
import { type Outcome, refusal } from '../edge/fault'
import type { FamilyFacts } from '../families/families'
import { commandCodes, type LinkCommand, linkCommands } from './codes'
import { eraseOf, sectorBytes } from './erase'
import { type Field, type FieldsRead, hex, inSteps, readFields, whole, yesNo } from './fields'
import { objectOf, romOf } from './rom'
import { slipEncode } from './slip'

/** Requests to a loader in ROM: direction, command, length, checksum, data (brief 06 §1 and §2). */

export const flashBlockBytes = 0x400
export const memoryBlockBytes = 0x1800
const mostRead = 64
export const [leastRate, mostRate] = [300, 5_000_000]
const checksumSeed = 0xef

/** 0xEF XOR every byte of the block: all that protects a block on the line. */
export const blockChecksum = (block: Uint8Array): number => block.reduce((sum, byte) => sum ^ byte, checksumSeed)

/** Words of four bytes, little-endian. */
function wordBytes(words: readonly number[]): Uint8Array {
  const out = new Uint8Array(words.length * 4)
  const view = new DataView(out.buffer)
  for (const [i, word] of words.entries()) view.setUint32(4 * i, word, true)
  return out
}

export interface Request {
  command: LinkCommand
  data: Uint8Array
  /** Of the block, for commands that carry one; else 0. */
  checksum: number
}

/** A request before framing. */
export function packetOf({ command, data, checksum }: Request): Uint8Array {
  const out = new Uint8Array(8 + data.length)
  const view = new DataView(out.buffer)
  view.setUint8(1, commandCodes[command])
  view.setUint16(2, data.length, true)
  view.setUint32(4, checksum, true)
  out.set(data, 8)
  return out
}

type Link = NonNullable<FamilyFacts['link']>
interface Made {
  data: Uint8Array
  checksum?: number
  /** What the answer of the command line says beside the frame. */
  more?: Record<string, number>
}
/** Reads the fields of a command and makes what it carries. */
type Maker = (input: Record<string, unknown>, place: string, link: Link) => Outcome<Made>

function maker<const Fields extends readonly Field[]>(
  fields: Fields,
  make: (given: FieldsRead<Fields>, link: Link) => Made,
): Maker {
  return (input, place, link) => {
    const read = readFields(input, place, fields)
    if (!read.ok) return read
    const { data, blockBytes } = read.value as Record<string, unknown>
    if (data instanceof Uint8Array && typeof blockBytes === 'number' && data.length > blockBytes)
      return refusal('range', `${place}/data`, `${data.length} bytes do not fit into a block of ${blockBytes}.`)
    return { ok: true, value: make(read.value, link) }
  }
}

const syncBytes = Uint8Array.from([0x07, 0x07, 0x12, 0x20, ...Array(32).fill(0x55)])

function carrying(block: Uint8Array, sequence: number): Made {
  const head = wordBytes([block.length, sequence, 0, 0])
  const data = new Uint8Array(head.length + block.length)
  data.set(head)
  data.set(block, head.length)
  const checksum = blockChecksum(block)
  return { data, checksum, more: { checksum } }
}

function padded(bytes: Uint8Array, length: number): Uint8Array {
  const out = new Uint8Array(length).fill(0xff)
  out.set(bytes)
  return out
}

function flashBegin(offset: number, bytes: number, link: Link): Made {
  const { told, erased } = eraseOf(link.erase, offset / sectorBytes, Math.ceil(bytes / sectorBytes))
  const blocks = Math.ceil(bytes / flashBlockBytes)
  const size = told * sectorBytes
  // Nothing to erase is how one family attaches its flash: then all sizes are 0.
  const list = [size, blocks, bytes === 0 ? 0 : flashBlockBytes, offset]
  return {
    data: wordBytes(link.beginWords === 5 ? [...list, 0] : list),
    more: { sizeField: size, blocks, erasedBytes: erased * sectorBytes },
  }
}

const makers: Record<LinkCommand, Maker> = {
  sync: maker([], () => ({ data: syncBytes })),
  'security-info': maker([], () => ({ data: new Uint8Array(0) })),
  'spi-attach': maker([], () => ({ data: wordBytes([0, 0]) })),
  'read-register': maker([whole('address')], (g) => ({ data: wordBytes([g.address]) })),
  'write-register': maker(
    [whole('address'), whole('value'), whole('mask', { otherwise: 0xffffffff }), whole('delayUs', { otherwise: 0 })],
    (g) => ({ data: wordBytes([g.address, g.value, g.mask, g.delayUs]) }),
  ),
  'memory-begin': maker(
    [
      whole('address'),
      whole('bytes'),
      whole('blockBytes', { least: 1, most: memoryBlockBytes, otherwise: memoryBlockBytes }),
    ],
    (g) => {
      const [bytes, block] = [g.bytes, g.blockBytes]
      return { data: wordBytes([bytes, Math.ceil(bytes / block), block, g.address]) }
    },
  ),
  'memory-data': maker(
    [
      whole('sequence'),
      hex('data'),
      whole('blockBytes', { least: 1, most: memoryBlockBytes, otherwise: memoryBlockBytes }),
    ],
    (g) => carrying(g.data, g.sequence),
  ),
  'memory-end': maker([whole('entry')], (g) => ({ data: wordBytes([g.entry === 0 ? 1 : 0, g.entry]) })),
  'flash-begin': maker([inSteps(whole('offset'), sectorBytes), whole('bytes')], (g, link) =>
    flashBegin(g.offset, g.bytes, link),
  ),
  'flash-data': maker(
    [
      whole('sequence'),
      hex('data'),
      whole('blockBytes', { least: 1, most: flashBlockBytes, otherwise: flashBlockBytes }),
    ],
    (g) => carrying(padded(g.data, g.blockBytes), g.sequence),
  ),
  'flash-end': maker([yesNo('reboot')], (g) => ({ data: wordBytes([g.reboot ? 0 : 1]) })),
  'spi-parameters': maker([whole('flashBytes')], (g) => ({
    data: wordBytes([0, g.flashBytes, 65_536, sectorBytes, 256, 0xffff]),
  })),
  'set-rate': maker([whole('rate', { least: leastRate, most: mostRate })], (g) => ({ data: wordBytes([g.rate, 0]) })),
  'flash-digest': maker([whole('offset'), whole('bytes')], (g) => ({ data: wordBytes([g.offset, g.bytes, 0, 0]) })),
  'flash-read': maker([whole('offset'), whole('bytes', { least: 1, most: mostRead })], (g) => ({
    data: wordBytes([g.offset, g.bytes]),
  })),
}

const isCommand = (x: unknown): x is LinkCommand => (linkCommands as readonly unknown[]).includes(x)

export interface BuiltFrame {
  code: number
  /** Before framing, in hex. */
  packet: string
  /** On the line, in hex. */
  hex: string
  /** Of commands that carry a block. */
  checksum?: number
  /** Of flash-begin: what it is told to erase, blocks, and what is gone afterwards, in bytes. */
  sizeField?: number
  blocks?: number
  erasedBytes?: number
}

/**
 * `link frame` with `build`: one request of a family's ROM. Family, command, ROM and fields are asked for in that order.
 * Refusals: `missing`, `type`, `range`, `unknown-family`, `unknown-command`, `not-in-rom`.
 */
export function buildFrame(input: unknown, place = '/build'): Outcome<BuiltFrame> {
  const given = objectOf(input)
  if (!given) return refusal('type', place, `The field ${place} must be an object.`)
  const rom = romOf(given.family, `${place}/family`)
  if (!rom.ok) return rom
  const at = `${place}/command`
  const { command } = given
  if (command === undefined || command === null) return refusal('missing', at, `The field ${at} is missing.`)
  if (typeof command !== 'string') return refusal('type', at, `The field ${at} must be a text.`)
  if (!isCommand(command)) return refusal('unknown-command', at, `There is no command called "${command}".`)
  const { family, link } = rom.value
  if (link === null) return refusal('not-in-rom', at, `The link does not speak to an ${family} yet.`)
  if (link.lacks.includes(command)) return refusal('not-in-rom', at, `The ROM of an ${family} has no ${command}.`)
  const made = makers[command](given, place, link)
  if (!made.ok) return made
  const { data, checksum = 0, more } = made.value
  const packet = packetOf({ command, data, checksum })
  return {
    ok: true,
    value: { code: commandCodes[command], packet: hexOf(packet), hex: hexOf(slipEncode(packet)), ...more },
  }
}
