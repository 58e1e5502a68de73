import { crc32 } from '../bytes/checksums'
import { type Digest, sha256Hex } from '../bytes/digests'
import { hexNumber, hexOf, sizeWords } from '../bytes/text'
import { finding, type PlacedFinding } from '../edge/finding'
import { isLoadAddress } from './addresses'

export type FileFinding = PlacedFinding<number | null>
export type ImageFormat = 'lx106-1' | 'lx106-2' | 'extended'
export type ImageFamily = 'LX106' | 'LX6' | 'LX7' | 'RV32'
export const flashModes = ['QIO', 'QOUT', 'DIO', 'DOUT'] as const
export type FlashMode = (typeof flashModes)[number]

export interface Segment {
  /** File offset of the data. */
  offset: number
  address: number
  length: number
}

export interface Check<Value> {
  offset: number
  stored: Value
  computed: Value
  ok: boolean
}

export interface AppDescriptor {
  version: string
  project: string
  time: string
  date: string
  framework: string
  elfSha256: string
}

/** One program image. What cannot be read is null; `segments` holds whole ones only. */
export interface Image {
  offset: number
  format: ImageFormat
  family: ImageFamily | null
  chipId: number | null
  segmentCount: number
  modeByte: number
  mode: FlashMode | null
  flashBytes: number | null
  flashMHz: number | null
  entry: number | null
  segments: Segment[]
  checksum: Check<number> | null
  hash: Check<string> | null
  crc32: Check<number> | null
  /** Length with checksum, hash or CRC; null if truncated. */
  bytes: number | null
  minRevision: number | null
  maxRevision: number | null
  app: AppDescriptor | null
}

const kib = 1024
const mib = 1024 * kib
const lx106Sizes = [512 * kib, 256 * kib, mib, 2 * mib, 4 * mib, 2 * mib, 4 * mib, null, 8 * mib, 16 * mib]
const extendedSizes = [mib, 2 * mib, 4 * mib, 8 * mib, 16 * mib, 32 * mib, 64 * mib, 128 * mib]
const clocks: Record<number, number> = { 0: 40, 1: 26, 2: 20, 15: 80 }
const chips: Record<number, ImageFamily> = {
  0: 'LX6',
  2: 'LX7',
  9: 'LX7',
  5: 'RV32',
  12: 'RV32',
  13: 'RV32',
  16: 'RV32',
}
/** The clock nibble means the same only on these chips. */
const chipsWithClock = new Set([0, 2, 5, 9])
const descriptorMagic = 0xabcd5432

/** Where a chip's ROM looks for the first image; chips 0 and 2 leave 4 KiB free for their own use. */
export const bootOffsetOfChip = (chipId: number | null): number => (chipId === 0 || chipId === 2 ? 0x1000 : 0)

export const at = (
  place: number | null,
  code: string,
  severity: FileFinding['severity'],
  message: string,
  because = '',
  next = '',
): FileFinding => ({
  ...finding(code, severity, message, because, next),
  at: place,
})

const downloadAgain = 'Download the file again and compare it with the hash its publisher gives.'

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

/** True when an extended header (LX6, LX7, RV32) begins here: E9, no load address at +8, and a 0 or 1 at +23. */
export function extendedHeaderAt(bytes: Uint8Array, offset: number): boolean {
  if (offset + 24 > bytes.length || bytes[offset] !== 0xe9) return false
  const flag = bytes[offset + 23]
  return !isLoadAddress(viewOf(bytes).getUint32(offset + 8, true)) && (flag === 0 || flag === 1)
}

/** True when an LX106 image of either generation begins here. */
export function lx106HeaderAt(bytes: Uint8Array, offset: number): boolean {
  if (offset + 24 > bytes.length) return false
  return bytes[offset] === 0xea || (bytes[offset] === 0xe9 && isLoadAddress(viewOf(bytes).getUint32(offset + 8, true)))
}

function textField(bytes: Uint8Array, offset: number, length: number): string {
  let out = ''
  for (let i = offset; i < offset + length; i++) {
    const b = bytes[i] as number
    if (b === 0) break
    out += b >= 0x20 && b <= 0x7e ? String.fromCharCode(b) : '?'
  }
  return out
}

function descriptorAt(bytes: Uint8Array, offset: number): AppDescriptor | null {
  if (offset + 256 > bytes.length || viewOf(bytes).getUint32(offset, true) !== descriptorMagic) return null
  return {
    version: textField(bytes, offset + 16, 32),
    project: textField(bytes, offset + 48, 32),
    time: textField(bytes, offset + 80, 16),
    date: textField(bytes, offset + 96, 16),
    framework: textField(bytes, offset + 112, 32),
    elfSha256: hexOf(bytes.subarray(offset + 144, offset + 176)),
  }
}

interface Walk {
  segments: Segment[]
  /** XOR of all data bytes, started with 0xEF. */
  xor: number
  /** Offset after the last segment, or the place where a length points past the end. */
  end: number
  truncated: boolean
}

/** XOR of bytes from..to; by words where the first one lies on a word boundary, which is nearly always. */
function xorOf(bytes: Uint8Array, from: number, to: number): number {
  let x = 0
  let i = from
  if ((bytes.byteOffset + from) % 4 === 0) {
    const words = new Int32Array(bytes.buffer, bytes.byteOffset + from, (to - from) >> 2)
    for (let w = 0; w < words.length; w++) x ^= words[w] as number
    x ^= x >>> 16
    x = (x ^ (x >>> 8)) & 255
    i = from + words.length * 4
  }
  for (; i < to; i++) x ^= bytes[i] as number
  return x
}

/** Follows `count` segments from `from`; stops at the first that does not fit in the file. */
function walkSegments(bytes: Uint8Array, from: number, count: number): Walk {
  const view = viewOf(bytes)
  const walk: Walk = { segments: [], xor: 0xef, end: from, truncated: false }
  for (let i = 0; i < count; i++) {
    if (walk.end + 8 > bytes.length) return { ...walk, truncated: true }
    const address = view.getUint32(walk.end, true)
    const length = view.getUint32(walk.end + 4, true)
    const data = walk.end + 8
    if (data + length > bytes.length) return { ...walk, truncated: true }
    walk.segments.push({ offset: data, address, length })
    walk.xor ^= xorOf(bytes, data, data + length)
    walk.end = data + length
  }
  return walk
}

export interface ReadImage {
  image: Image
  findings: FileFinding[]
}

/** Reads the image that begins at `offset` (its header must be there) and checks everything it carries about itself. */
export function readImage(bytes: Uint8Array, offset: number, digest: Digest = sha256Hex): ReadImage {
  const view = viewOf(bytes)
  const findings: FileFinding[] = []
  const second = bytes[offset] === 0xea
  const extended = !second && extendedHeaderAt(bytes, offset)
  const modeByte = bytes[offset + 2] as number
  const sizeCode = (bytes[offset + 3] as number) >> 4
  const clock = (bytes[offset + 3] as number) & 15
  const chipId = extended ? view.getUint16(offset + 12, true) : null
  const sizes = extended ? extendedSizes : lx106Sizes
  const image: Image = {
    offset,
    format: second ? 'lx106-2' : extended ? 'extended' : 'lx106-1',
    family: chipId === null ? 'LX106' : (chips[chipId] ?? null),
    chipId,
    segmentCount: bytes[offset + 1] as number,
    modeByte,
    mode: flashModes[modeByte] ?? null,
    flashBytes: sizes[sizeCode] ?? null,
    flashMHz: chipId === null || chipsWithClock.has(chipId) ? (clocks[clock] ?? null) : null,
    entry: view.getUint32(offset + 4, true),
    segments: [],
    checksum: null,
    hash: null,
    crc32: null,
    bytes: null,
    minRevision: extended ? view.getUint16(offset + 15, true) : null,
    maxRevision: extended ? view.getUint16(offset + 17, true) : null,
    app: extended ? descriptorAt(bytes, offset + 32) : null,
  }
  if (image.mode === null)
    findings.push(
      at(
        offset + 2,
        'mode-unknown',
        'error',
        `The flash mode byte is ${modeByte}; only 0 to 3 exist.`,
        `Byte 2 of the header at ${hexNumber(offset)}.`,
        downloadAgain,
      ),
    )
  if (image.flashBytes === null)
    findings.push(
      at(
        offset + 3,
        'size-code-unknown',
        'watch',
        `Size code ${sizeCode} has no meaning here.`,
        `Byte 3 of the header at ${hexNumber(offset)}.`,
        'Check that the file is made for this chip.',
      ),
    )
  if (extended && image.family === null)
    findings.push(
      at(
        offset + 12,
        'chip-unknown',
        'error',
        `Chip id ${chipId} is none we know.`,
        '',
        'Get the build for your chip family.',
      ),
    )

  const truncated = (place: number) => {
    findings.push(
      at(
        place,
        'truncated',
        'error',
        `A length points past the end of the file at ${hexNumber(place)}: cut off or corrupt.`,
        `The file has ${bytes.length} bytes.`,
        downloadAgain,
      ),
    )
    return { image, findings }
  }

  let from = offset + (extended ? 24 : 8)
  if (second) {
    const mapped = walkSegments(bytes, from, 1)
    image.segments.push(...mapped.segments)
    image.entry = null
    if (mapped.truncated || mapped.end + 8 > bytes.length) return truncated(mapped.end)
    if (bytes[mapped.end] !== 0xe9) {
      findings.push(
        at(
          mapped.end,
          'second-header-missing',
          'error',
          `There is no second header at ${hexNumber(mapped.end)}.`,
          'A second-generation image has one behind its flash-mapped part.',
          downloadAgain,
        ),
      )
      return { image, findings }
    }
    image.segmentCount = bytes[mapped.end + 1] as number
    image.entry = view.getUint32(mapped.end + 4, true)
    from = mapped.end + 8
  }
  if (image.segmentCount < 1 || image.segmentCount > 16) {
    findings.push(
      at(
        offset + 1,
        'segment-count',
        'error',
        `The header names ${image.segmentCount} segments; 1 to 16 are possible.`,
        'Nothing was read beyond the header.',
        downloadAgain,
      ),
    )
    return { image, findings }
  }
  const walk = walkSegments(bytes, from, image.segmentCount)
  image.segments.push(...walk.segments)
  if (walk.truncated) return truncated(walk.end)

  // Zeros fill up so that the checksum byte is the last of a row of 16, counted from the image's start.
  const checksumAt = offset + ((walk.end - offset) | 15)
  if (checksumAt >= bytes.length) return truncated(walk.end)
  const stored = bytes[checksumAt] as number
  image.checksum = { offset: checksumAt, stored, computed: walk.xor, ok: stored === walk.xor }
  if (!image.checksum.ok)
    findings.push(
      at(
        checksumAt,
        'checksum-bad',
        'error',
        `The checksum is ${hexNumber(stored)}, the content gives ${hexNumber(walk.xor)}: it was changed after building.`,
        `Image at ${hexNumber(offset)}.`,
        downloadAgain,
      ),
    )

  let end = checksumAt + 1
  if (second) {
    if (end + 4 > bytes.length) return truncated(end)
    const c = crc32(bytes.subarray(offset, end))
    const computed = c & 0x80000000 ? ~c >>> 0 : c + 1
    const storedCrc = view.getUint32(end, true)
    image.crc32 = { offset: end, stored: storedCrc, computed, ok: storedCrc === computed }
    if (!image.crc32.ok)
      findings.push(
        at(
          end,
          'crc-bad',
          'error',
          `The CRC is ${hexNumber(storedCrc)}, the content gives ${hexNumber(computed)}: it was changed after building.`,
          `Image at ${hexNumber(offset)}.`,
          downloadAgain,
        ),
      )
    end += 4
  }
  if (extended && bytes[offset + 23] === 1) {
    if (end + 32 > bytes.length) return truncated(end)
    const storedHash = hexOf(bytes.subarray(end, end + 32))
    const computed = digest(bytes.subarray(offset, end))
    image.hash = { offset: end, stored: storedHash, computed, ok: storedHash === computed }
    if (!image.hash.ok)
      findings.push(
        at(
          end,
          'hash-bad',
          'error',
          'The SHA-256 at the end does not fit the content: it was changed after building.',
          `Stored ${storedHash.slice(0, 12)}…, computed ${computed.slice(0, 12)}….`,
          downloadAgain,
        ),
      )
    end += 32
  } else if (extended) {
    findings.push(
      at(
        offset,
        'hash-absent',
        'watch',
        'The image carries no hash of itself; only its checksum agrees.',
        'A checksum misses many faults.',
        'Compare the file with the hash its publisher gives.',
      ),
    )
  }
  image.bytes = end - offset
  return { image, findings }
}

/** How an image names its chip, for sentences. */
export const imageWords = (image: Image): string =>
  `${image.family ?? `chip ${image.chipId}`}${image.flashBytes ? `, ${sizeWords(image.flashBytes)}` : ''}${image.mode ? `, ${image.mode}` : ''}`
