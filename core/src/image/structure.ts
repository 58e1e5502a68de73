import { type Digest, sha256Hex } from '../bytes/digests'
import { hexNumber } from '../bytes/text'
import { nth } from '../edge/nth'
import {
  at,
  bootOffsetOfChip,
  extendedHeaderAt,
  type FileFinding,
  type Image,
  type ImageFamily,
  imageWords,
  lx106HeaderAt,
  readImage,
} from './image'
import { defaultTableOffset, type PartitionTable, readPartitions } from './partitions'

export type FileKind = 'app' | 'bootloader' | 'merged' | 'partition-table' | 'ota-container' | 'blank' | 'unknown'

export interface Structure {
  kind: FileKind
  family: ImageFamily | null
  chipId: number | null
  trailingBytes: number | null
  images: Image[]
  partitions: PartitionTable | null
  findings: FileFinding[]
}

export const allOneValue = (bytes: Uint8Array): boolean => {
  const first = bytes[0]
  for (let i = 1; i < bytes.length; i++) if (bytes[i] !== first) return false
  return bytes.length > 0
}

export const nothing = (kind: FileKind, findings: FileFinding[] = []): Structure => ({
  kind,
  family: null,
  chipId: null,
  trailingBytes: null,
  images: [],
  partitions: null,
  findings,
})

/** LX106: one image, or a loader below 0x1000 with the program's own image behind it. */
function lx106Structure(bytes: Uint8Array, digest: Digest): Structure {
  const first = readImage(bytes, 0, digest)
  const reads = [first]
  const end = first.image.bytes
  if (first.image.format === 'lx106-1' && end !== null && end <= 0x1000 && lx106HeaderAt(bytes, 0x1000))
    reads.push(readImage(bytes, 0x1000, digest))
  const last = reads.at(-1)?.image as Image
  return {
    kind: reads.length > 1 ? 'merged' : 'app',
    family: 'LX106',
    chipId: null,
    trailingBytes: last.bytes === null ? null : bytes.length - last.offset - last.bytes,
    images: reads.map((r) => r.image),
    partitions: null,
    findings: reads.flatMap((r) => r.findings),
  }
}

/** The programs in the app partitions of a whole-chip file. */
function partitionApps(
  bytes: Uint8Array,
  table: PartitionTable,
  boot: Image,
  digest: Digest,
  findings: FileFinding[],
): Image[] {
  const images: Image[] = []
  for (const p of table.entries) {
    if (p.type !== 0 || p.offset >= bytes.length || bytes[p.offset] === 0xff) continue
    if (images.some((i) => i.offset === p.offset)) continue
    if (!extendedHeaderAt(bytes, p.offset) && !lx106HeaderAt(bytes, p.offset)) {
      findings.push(
        at(
          p.offset,
          'app-bad-magic',
          'error',
          `Partition “${p.label}” holds no image.`,
          `It begins with ${hexNumber(nth(bytes, p.offset))} at ${hexNumber(p.offset)}.`,
          'Download the file again.',
        ),
      )
      continue
    }
    const read = readImage(bytes, p.offset, digest)
    findings.push(...read.findings)
    if (read.image.family !== boot.family || read.image.chipId !== boot.chipId)
      findings.push(
        at(
          p.offset,
          'chip-mixed',
          'error',
          `The file holds parts for two chips: ${imageWords(boot)} and ${imageWords(read.image)}.`,
          `Boot image at ${hexNumber(boot.offset)}, program at ${hexNumber(p.offset)}.`,
          'Get the file for one chip.',
        ),
      )
    if (read.image.bytes !== null && read.image.bytes > p.length)
      findings.push(
        at(
          p.offset,
          'slot-too-small',
          'error',
          `The program has ${read.image.bytes} bytes; partition “${p.label}” has room for ${p.length}.`,
          '',
          'Use a smaller build or another layout.',
        ),
      )
    images.push(read.image)
  }
  return images
}

/** Extended header at `base`: whole chip, program alone, or boot loader alone. */
function extendedStructure(bytes: Uint8Array, base: number, flashBytes: number | null, digest: Digest): Structure {
  const { image, findings } = readImage(bytes, base, digest)
  const length = image.bytes
  const tableThere = bytes[defaultTableOffset] === 0xaa && bytes[defaultTableOffset + 1] === 0x50
  const whole = base > 0 || (length !== null && length <= defaultTableOffset && tableThere)
  if (whole) {
    const due = bootOffsetOfChip(image.chipId)
    if (image.family !== null && due !== base)
      findings.push(
        at(
          base,
          'boot-offset',
          'error',
          `The boot image stands at ${hexNumber(base)}; this chip starts from ${hexNumber(due)}.`,
          `Chip id ${image.chipId}.`,
          'Get the file for this chip.',
        ),
      )
    const read = readPartitions(bytes, defaultTableOffset, flashBytes, { bare: false })
    findings.push(...read.findings)
    const apps = read.table ? partitionApps(bytes, read.table, image, digest, findings) : []
    return {
      kind: 'merged',
      family: image.family,
      chipId: image.chipId,
      trailingBytes: null,
      images: [image, ...apps],
      partitions: read.table,
      findings,
    }
  }
  let kind: FileKind = 'app'
  if (image.app === null) {
    if (length !== null && length <= defaultTableOffset - bootOffsetOfChip(image.chipId)) kind = 'bootloader'
    else
      findings.push(
        at(
          base,
          'no-descriptor',
          'watch',
          'Nobody can tell what this app is: it carries no description of itself.',
          '',
          'Check where the file came from.',
        ),
      )
  }
  return {
    kind,
    family: image.family,
    chipId: image.chipId,
    trailingBytes: length === null ? null : bytes.length - base - length,
    images: [image],
    partitions: null,
    findings,
  }
}

/** What stands in these bytes, whatever the file is for. `null` when there is no header that we know. */
export function structureOf(
  bytes: Uint8Array,
  options: { flashBytes: number | null; loaderAnywhereBelow: boolean; digest?: Digest },
): Structure | null {
  const digest = options.digest ?? sha256Hex
  if ((bytes[0] === 0xe9 || bytes[0] === 0xea) && bytes.length < 24)
    return nothing('unknown', [
      at(
        0,
        'truncated',
        'error',
        'The file ends inside its first header: cut off or corrupt.',
        `It has ${bytes.length} bytes.`,
        'Download the file again.',
      ),
    ])
  if (lx106HeaderAt(bytes, 0)) return lx106Structure(bytes, digest)
  if (extendedHeaderAt(bytes, 0)) return extendedStructure(bytes, 0, options.flashBytes, digest)
  const below = bytes.subarray(0, 0x1000)
  const mayStartHigher = options.loaderAnywhereBelow || (below.length === 0x1000 && below.every((b) => b === 0xff))
  if (mayStartHigher && extendedHeaderAt(bytes, 0x1000))
    return extendedStructure(bytes, 0x1000, options.flashBytes, digest)
  return null
}

/**
 * The pieces of a dump that end with a SHA-256 of themselves, so that a platform whose digests take their time can compute
 * them before `structureOf` asks for them.
 */
export function hashedPieces(bytes: Uint8Array): Uint8Array[] {
  const pieces: Uint8Array[] = []
  const note = (piece: Uint8Array) => {
    pieces.push(piece)
    return ''
  }
  structureOf(bytes, { flashBytes: null, loaderAnywhereBelow: true, digest: note })
  return pieces
}
