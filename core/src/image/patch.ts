import { crc32 } from '../bytes/checksums'
import { sha256Hex } from '../bytes/digests'
import { bytesOfHex, hexNumber } from '../bytes/text'
import { hasError } from '../edge/finding'
import { nth } from '../edge/nth'
import { at, type FileFinding, type FlashMode, flashModes, type Image } from './image'
import { inspectImage } from './inspect'
import type { FileKind } from './structure'

/** A copy of an image with another flash mode in its header. The original is never touched. */

export interface PatchedMode {
  kind: FileKind
  from: FlashMode | null
  to: FlashMode
  changed: boolean
  /** Mode bytes only. */
  changedBytes: { offset: number; before: number; after: number }[]
  hashRecomputed: boolean
  crcRecomputed: boolean
  sha256Before: string
  sha256After: string | null
  findings: FileFinding[]
  /** The patched copy; null when nothing was patched. */
  bytes: Uint8Array | null
}

/** Offsets of the header bytes that hold the mode: one header, or two in a second-generation image. */
function modeBytesOf(image: Image): number[] {
  const mapped = image.segments[0]
  const second = image.format === 'lx106-2' && mapped ? mapped.offset + mapped.length : null
  return [image.offset + 2, ...(second === null ? [] : [second + 2])]
}

/** The stored CRC of a second-generation image: ~c where bit 31 of c is set, else c + 1. */
const storedCrc = (c: number): number => (c & 0x80000000 ? ~c >>> 0 : c + 1)

/**
 * Sets the flash mode of the first (boot) image. Its checksum covers no headers; a hash or CRC that does is computed anew.
 * Refused: `refuse-gzip`, `refuse-format` (no header), `refuse-corrupt` (a fresh hash must never cover a fault).
 * @param knownSha256 hash of `bytes` when the platform has computed it already
 */
export function patchMode(bytes: Uint8Array, mode: FlashMode, knownSha256?: string): PatchedMode {
  const inspected = inspectImage(bytes, {}, { sha256: knownSha256 })
  const image = inspected.images[0]
  const result: PatchedMode = {
    kind: inspected.kind,
    from: image?.mode ?? null,
    to: mode,
    changed: false,
    changedBytes: [],
    hashRecomputed: false,
    crcRecomputed: false,
    sha256Before: inspected.sha256 ?? knownSha256 ?? sha256Hex(bytes),
    sha256After: null,
    findings: [],
    bytes: null,
  }
  const refuse = (code: string, message: string, because: string, next: string): PatchedMode => ({
    ...result,
    findings: [at(null, code, 'error', message, because, next)],
  })
  if (bytes[0] === 0x1f && bytes[1] === 0x8b)
    return refuse(
      'refuse-gzip',
      'Not patched: the file is packed.',
      'It begins with a gzip header.',
      'Unpack it first.',
    )
  const errors = inspected.findings.filter((f) => f.severity === 'error')
  if (!image && !errors.some((f) => f.code === 'truncated'))
    return refuse(
      'refuse-format',
      'Not patched: there is no header that holds a flash mode.',
      `The file is ${inspected.kind}.`,
      'Choose the image itself.',
    )
  if (!image || hasError(inspected.findings))
    return refuse(
      'refuse-corrupt',
      'Not patched: the file has faults, and a fresh hash would hide them.',
      [...new Set(errors.map((f) => f.code))].join(', '),
      'Download it again and compare it with the hash its publisher gives.',
    )

  const value = flashModes.indexOf(mode)
  const out = bytes.slice()
  for (const offset of modeBytesOf(image))
    if (out[offset] !== value) {
      result.changedBytes.push({ offset, before: nth(out, offset), after: value })
      out[offset] = value
    }
  if (result.changedBytes.length === 0)
    return {
      ...result,
      findings: [at(image.offset + 2, 'already-mode', 'ok', `It is ${mode} already: nothing was changed.`)],
    }
  if (image.crc32) {
    const crc = storedCrc(crc32(out.subarray(image.offset, image.crc32.offset)))
    new DataView(out.buffer, out.byteOffset, out.byteLength).setUint32(image.crc32.offset, crc, true)
    result.crcRecomputed = true
  }
  if (image.hash) {
    out.set(bytesOfHex(sha256Hex(out.subarray(image.offset, image.hash.offset))) as Uint8Array, image.hash.offset)
    result.hashRecomputed = true
  }
  const ignored = image.format === 'extended' && inspected.kind === 'app'
  return {
    ...result,
    changed: true,
    sha256After: sha256Hex(out),
    bytes: out,
    findings: ignored
      ? [
          at(
            image.offset + 2,
            'mode-ignored-in-app',
            'watch',
            'The mode byte of an app alone has no effect: the boot ROM reads the one at the chip’s boot offset.',
            `Byte ${hexNumber(image.offset + 2)} was changed all the same.`,
            'Patch the boot loader or the whole-chip file instead.',
          ),
        ]
      : [],
  }
}

/** "plainsong-dio.bin" → "plainsong-dout.bin"; the mode is appended where the name holds none. */
export function patchedName(name: string, mode: FlashMode): string {
  const dot = name.lastIndexOf('.')
  const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, '']
  return `${stem.replace(/-(qio|qout|dio|dout)$/i, '')}-${mode.toLowerCase()}${ending}`
}
