import { type Digest, sha256Hex } from '../bytes/digests'
import { gunzip } from '../bytes/gunzip'
import { hexNumber, sizeWords } from '../bytes/text'
import { severityRank } from '../edge/finding'
import { byText } from '../edge/order'
import { isArm968 } from '../families/families'
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

/** The largest flash file: 16 MiB, packed and unpacked. */
export const largestFile = 16 * 1024 * 1024

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

export interface InspectOptions {
  family?: string | null
  flashBytes?: number | null
}

export interface ImageInspection extends Structure {
  bytes: number
  sha256: string | null
  gzip: { bytes: number; sha256: string } | null
}

/** Errors first, then watch, then ok; then by code, then by place. One row per code and place. */
export function sortFindings(findings: readonly FileFinding[]): FileFinding[] {
  const seen = new Set<string>()
  return [...findings]
    .sort(
      (a, b) =>
        severityRank(a.severity) - severityRank(b.severity) || byText(a.code, b.code) || (a.at ?? -1) - (b.at ?? -1),
    )
    .filter((f) => {
      const key = `${f.code}@${f.at}`
      if (seen.has(key)) return false
      seen.add(key)
      return true
    })
}

export const allOneValue = (bytes: Uint8Array): boolean => {
  const first = bytes[0]
  for (let i = 1; i < bytes.length; i++) if (bytes[i] !== first) return false
  return bytes.length > 0
}

const nothing = (kind: FileKind, findings: FileFinding[] = []): Structure => ({
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
          `It begins with ${hexNumber(bytes[p.offset] as number)} at ${hexNumber(p.offset)}.`,
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

/** What an inspection says about bytes that are to go to a chip: the content, when the file was packed. */
type Judged = Pick<Structure, 'kind' | 'family' | 'images' | 'partitions'>

/** Does this file fit this unit? Judged from what was read, so that a stored inspection serves every unit. */
export function fitFindings(found: Judged, bytes: number, options: InspectOptions): FileFinding[] {
  const out: FileFinding[] = []
  const flashBytes = options.flashBytes ?? null
  const first = found.images[0]
  if (options.family && found.family !== null && found.family !== options.family)
    out.push(
      at(
        first?.offset ?? 0,
        'family-mismatch',
        'error',
        `The image is made for ${found.family}, the unit is ${options.family}.`,
        '',
        'Get the build for the unit’s family.',
      ),
    )
  if (flashBytes === null) return out
  if (bytes > flashBytes)
    out.push(
      at(
        null,
        'file-larger-than-flash',
        'error',
        `The file is ${bytes - flashBytes} bytes longer than the flash.`,
        `File ${bytes} bytes, chip ${sizeWords(flashBytes)}.`,
        'Choose a smaller build, or check the flash size on record.',
      ),
    )
  if (!first || first.flashBytes === null) return out
  const because = `The header says ${sizeWords(first.flashBytes)}, the chip has ${sizeWords(flashBytes)}.`
  if (first.flashBytes > flashBytes) {
    const soft = first.format === 'extended' && found.kind === 'app'
    out.push(
      at(
        first.offset,
        'header-size-too-large',
        soft ? 'watch' : 'error',
        'The image is built for a larger flash than the unit has.',
        because,
        soft
          ? 'The boot loader’s header counts; check that one.'
          : 'Build or download it for this flash size: settings would land outside the chip.',
      ),
    )
  } else if (first.flashBytes < flashBytes) {
    out.push(
      at(
        first.offset,
        'header-size-smaller',
        'ok',
        'The image is built for a smaller flash; the rest of the chip stays unused.',
        because,
      ),
    )
  }
  return out
}

/** Families whose files have no header that can be trusted. */
export const headerless = (family: string | null | undefined): boolean => isArm968(family) || family === 'CM3'

function contentStructure(bytes: Uint8Array, options: Required<InspectOptions>, digest: Digest): Structure {
  if (bytes.length === 0)
    return nothing('unknown', [at(null, 'empty-file', 'error', 'The file is empty.', '', 'Fetch it again.')])
  if (allOneValue(bytes))
    return nothing('blank', [
      at(
        null,
        'blank-file',
        'error',
        `The file holds only ${hexNumber(bytes[0] as number)}.`,
        `${bytes.length} bytes.`,
        'Fetch it again.',
      ),
    ])
  if (bytes[0] === 0x52 && bytes[1] === 0x42 && bytes[2] === 0x4c && bytes[3] === 0)
    return nothing('ota-container', [
      at(
        0,
        'ota-container',
        'watch',
        'This is an over-the-air container: it can go over Wi-Fi, not over wires.',
        'It begins RBL.',
        'For wires, choose the serial file.',
      ),
    ])
  if (bytes[0] === 0xaa && bytes[1] === 0x50) {
    const read = readPartitions(bytes, defaultTableOffset, options.flashBytes, { bare: true })
    return { ...nothing('partition-table', read.findings), partitions: read.table }
  }
  const found = structureOf(bytes, { flashBytes: options.flashBytes, loaderAnywhereBelow: false, digest })
  if (found === null)
    return nothing('unknown', [
      at(
        0,
        'unknown-format',
        headerless(options.family) ? 'watch' : 'error',
        'There is no header that we know.',
        `It begins with ${[...bytes.subarray(0, 4)].map((b) => hexNumber(b)).join(' ')}.`,
        headerless(options.family)
          ? 'Files of this family have none: make sure where it came from.'
          : 'Choose an image for this chip family.',
      ),
    ])
  const findings = [...found.findings]
  const trailing = found.trailingBytes ?? 0
  if (trailing > 0) {
    const from = bytes.length - trailing
    const padding = bytes.subarray(from).every((b) => b === 0xff)
    if (found.family === 'LX106')
      findings.push(
        at(
          from,
          'trailing-bytes',
          'ok',
          `${trailing} bytes follow the image.`,
          'Usual on this family: files or a second part.',
        ),
      )
    else if (!padding)
      findings.push(
        at(
          from,
          'trailing-bytes',
          'watch',
          `${trailing} bytes follow the image and are not blank.`,
          '',
          'Check that this is the file you meant.',
        ),
      )
  }
  return { ...found, findings }
}

/**
 * What an image file is, whether it is whole, and whether it fits the unit.
 * @param known the hash of `bytes`, when it has been computed already, and the platform's own SHA-256
 */
export function inspectImage(
  bytes: Uint8Array,
  options: InspectOptions = {},
  known: { sha256?: string; digest?: Digest } = {},
): ImageInspection {
  const digest = known.digest ?? sha256Hex
  const full = { family: options.family ?? null, flashBytes: options.flashBytes ?? null }
  if (bytes.length > largestFile) {
    const findings = [
      at(
        null,
        'too-large',
        'error',
        `This file has ${bytes.length} bytes; at most 16 MiB can be a flash file.`,
        '',
        'Check that you chose the right file.',
      ),
    ]
    return { bytes: bytes.length, sha256: null, gzip: null, ...nothing('unknown', findings) }
  }
  const sha256 = known.sha256 ?? digest(bytes)
  const done = (gzip: ImageInspection['gzip'], found: Structure): ImageInspection => ({
    bytes: bytes.length,
    sha256,
    gzip,
    ...found,
    findings: sortFindings(found.findings),
  })
  if (bytes[0] !== 0x1f || bytes[1] !== 0x8b) {
    const found = contentStructure(bytes, full, digest)
    return done(null, { ...found, findings: [...found.findings, ...fitFindings(found, bytes.length, full)] })
  }
  const content = gunzip(bytes, largestFile)
  if (!content.ok)
    return done(
      null,
      nothing('unknown', [
        content.reason === 'bad'
          ? at(
              0,
              'gzip-bad',
              'error',
              'The packed file cannot be unpacked.',
              'Its gzip data are cut off or corrupt.',
              'Download it again.',
            )
          : at(
              0,
              'gzip-too-large',
              'error',
              'The packed file unpacks to over 16 MiB.',
              'No flash file is that large.',
              'Check that you chose the right file.',
            ),
      ]),
    )
  const found = contentStructure(content.bytes, full, digest)
  const findings = [
    ...found.findings,
    ...fitFindings(found, content.bytes.length, full),
    at(0, 'gzip-ota-only', 'watch', 'A packed file can go over the air, not over wires.', '', 'Unpack it for wires.'),
  ]
  return done({ bytes: content.bytes.length, sha256: digest(content.bytes) }, { ...found, findings })
}

/** Mode of the first program in a kept inspection; null where there is none, or none that this version knows of. */
export const imageMode = (inspection: unknown): string | null =>
  (inspection as Partial<ImageInspection> | null)?.images?.[0]?.mode ?? null
