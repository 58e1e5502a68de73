import { type Digest, sha256Hex } from '../bytes/digests'
import { gunzip } from '../bytes/gunzip'
import { hexNumber } from '../bytes/text'
import { severityRank } from '../edge/finding'
import { nth } from '../edge/nth'
import { byText } from '../edge/order'
import { headerless } from '../families/families'
import { fitFindings, type InspectOptions } from './fit'
import { at, type FileFinding } from './image'
import { defaultTableOffset, readPartitions } from './partitions'
import { allOneValue, nothing, type Structure, structureOf } from './structure'

/** The largest flash file: 16 MiB, packed and unpacked. */
export const largestFile = 16 * 1024 * 1024

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

function contentStructure(bytes: Uint8Array, options: Required<InspectOptions>, digest: Digest): Structure {
  if (bytes.length === 0)
    return nothing('unknown', [at(null, 'empty-file', 'error', 'The file is empty.', '', 'Fetch it again.')])
  if (allOneValue(bytes))
    return nothing('blank', [
      at(
        null,
        'blank-file',
        'error',
        `The file holds only ${hexNumber(nth(bytes, 0))}.`,
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
    if (padding) return { ...found, findings }
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
    else
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
