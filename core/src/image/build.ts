import { crc32 } from '../bytes/checksums'
import { md5Hex, sha256Hex } from '../bytes/digests'
import { bytesOfHex, bytesOfLatin1 } from '../bytes/text'
import { type FlashMode, flashModes } from './image'
import { slotSelectCrc } from './partitions'

/** Makes files in the true formats: for the demo, the stand-ins and the tests. It is the inverse of reading them. */
export interface NewSegment {
  address: number
  data: Uint8Array
}

const put32 = (bytes: Uint8Array, offset: number, value: number) =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).setUint32(offset, value, true)

function concat(...parts: Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}

function segmentBytes(segments: readonly NewSegment[]): { bytes: Uint8Array; xor: number } {
  let xor = 0xef
  const parts = segments.flatMap(({ address, data }) => {
    const header = new Uint8Array(8)
    put32(header, 0, address)
    put32(header, 4, data.length)
    for (const b of data) xor ^= b
    return [header, data]
  })
  return { bytes: concat(...parts), xor }
}

/** Zeros and the checksum, so that the checksum is the last byte of a row of 16. */
function sealed(body: Uint8Array, xor: number): Uint8Array {
  const out = new Uint8Array((body.length | 15) + 1)
  out.set(body)
  out[out.length - 1] = xor
  return out
}

export interface NewImage {
  mode: FlashMode
  sizeCode: number
  clock?: number
  entry: number
  segments: readonly NewSegment[]
}

function header(magic: number, count: number, image: NewImage, length: number): Uint8Array {
  const bytes = new Uint8Array(length)
  bytes.set([magic, count, flashModes.indexOf(image.mode), (image.sizeCode << 4) | (image.clock ?? 0)])
  put32(bytes, 4, image.entry)
  return bytes
}

/** LX106, first generation. */
export function buildLx106(image: NewImage): Uint8Array {
  const { bytes, xor } = segmentBytes(image.segments)
  return sealed(concat(header(0xe9, image.segments.length, image, 8), bytes), xor)
}

/** LX106, second generation: `mapped` is the flash-mapped part, a multiple of 16 bytes. */
export function buildLx106Second(image: NewImage, mapped: Uint8Array): Uint8Array {
  const { bytes, xor } = segmentBytes(image.segments)
  const first = segmentBytes([{ address: 0, data: mapped }]).bytes
  const body = sealed(
    concat(header(0xea, 4, image, 8), first, header(0xe9, image.segments.length, image, 8), bytes),
    xor,
  )
  const c = crc32(body)
  const tail = new Uint8Array(4)
  put32(tail, 0, c & 0x80000000 ? ~c >>> 0 : c + 1)
  return concat(body, tail)
}

export interface NewExtended extends NewImage {
  chipId: number
  withHash?: boolean
  minRevision?: number
  maxRevision?: number
}

/** LX6, LX7, RV32. */
export function buildExtended(image: NewExtended): Uint8Array {
  const { bytes, xor } = segmentBytes(image.segments)
  const head = header(0xe9, image.segments.length, image, 24)
  const view = new DataView(head.buffer)
  head[8] = 0xee
  view.setUint16(12, image.chipId, true)
  view.setUint16(15, image.minRevision ?? 0, true)
  view.setUint16(17, image.maxRevision ?? 0, true)
  const withHash = image.withHash ?? true
  head[23] = withHash ? 1 : 0
  const body = sealed(concat(head, bytes), xor)
  return withHash ? concat(body, bytesOfHex(sha256Hex(body)) as Uint8Array) : body
}

/** The 256 bytes that describe an app, for the start of its first segment. */
export function buildDescriptor(app: {
  version: string
  project: string
  time: string
  date: string
  framework: string
}): Uint8Array {
  const bytes = new Uint8Array(256)
  put32(bytes, 0, 0xabcd5432)
  bytes.set(bytesOfLatin1(app.version).subarray(0, 31), 16)
  bytes.set(bytesOfLatin1(app.project).subarray(0, 31), 48)
  bytes.set(bytesOfLatin1(app.time).subarray(0, 15), 80)
  bytes.set(bytesOfLatin1(app.date).subarray(0, 15), 96)
  bytes.set(bytesOfLatin1(app.framework).subarray(0, 31), 112)
  for (let i = 0; i < 32; i++) bytes[144 + i] = i
  return bytes
}

export interface NewPartition {
  label: string
  type: number
  subtype: number
  offset: number
  length: number
}

/** A usual layout for 4 MiB with two program slots. */
export const twoSlotLayout: readonly NewPartition[] = [
  { label: 'kv', type: 1, subtype: 2, offset: 0x9000, length: 0x4000 },
  { label: 'select', type: 1, subtype: 0, offset: 0xd000, length: 0x2000 },
  { label: 'phy', type: 1, subtype: 1, offset: 0xf000, length: 0x1000 },
  { label: 'slot-a', type: 0, subtype: 0x10, offset: 0x10000, length: 0x180000 },
  { label: 'slot-b', type: 0, subtype: 0x11, offset: 0x190000, length: 0x180000 },
  { label: 'web', type: 1, subtype: 0x82, offset: 0x310000, length: 0xf0000 },
]

/** A partition table with its MD5, without padding. */
export function buildPartitions(entries: readonly NewPartition[], withMd5 = true): Uint8Array {
  const body = concat(
    ...entries.map((e) => {
      const bytes = new Uint8Array(32)
      bytes.set([0xaa, 0x50, e.type, e.subtype])
      put32(bytes, 4, e.offset)
      put32(bytes, 8, e.length)
      bytes.set(bytesOfLatin1(e.label).subarray(0, 16), 12)
      return bytes
    }),
  )
  if (!withMd5) return body
  const md5 = new Uint8Array(32).fill(0xff)
  md5.set([0xeb, 0xeb])
  md5.set(bytesOfHex(md5Hex(body)) as Uint8Array, 16)
  return concat(body, md5)
}

/** One slot-select sector. */
export function buildSlotSelect(sequence: number, state = 2): Uint8Array {
  const bytes = new Uint8Array(4096).fill(0xff)
  put32(bytes, 0, sequence)
  put32(bytes, 24, state)
  put32(bytes, 28, slotSelectCrc(sequence))
  return bytes
}

/** A chip of `size` blank bytes with `parts` written at their offsets. */
export function buildChip(size: number, parts: readonly [offset: number, bytes: Uint8Array][]): Uint8Array {
  const chip = new Uint8Array(size).fill(0xff)
  for (const [offset, bytes] of parts) chip.set(bytes, offset)
  return chip
}

/** Bytes that look like packed code: xorshift from a seed, always the same. */
export function noise(length: number, seed: number): Uint8Array {
  const out = new Uint8Array(length)
  let x = seed | 1
  for (let i = 0; i < length; i++) {
    x ^= x << 13
    x ^= x >>> 17
    x ^= x << 5
    out[i] = x & 0xff
  }
  return out
}
