import { Gunzip } from 'fflate'
import { crc32 } from './checksums'

export type Unpacked = { ok: true; bytes: Uint8Array } | { ok: false; reason: 'bad' | 'too-large' }

/**
 * Unpacks a gzip file, never holding more than `limit` bytes and one small piece: a bomb is refused on the way.
 * The CRC and length in the trailer are checked (RFC 1952), so a file cut in half is not taken for a whole one.
 */
export function gunzip(packed: Uint8Array, limit: number): Unpacked {
  const pieces: Uint8Array[] = []
  let total = 0
  const stream = new Gunzip((piece) => {
    total += piece.length
    if (total > limit) throw new Error('limit')
    pieces.push(piece)
  })
  try {
    for (let at = 0; at < packed.length; at += 4096)
      stream.push(packed.subarray(at, at + 4096), at + 4096 >= packed.length)
  } catch {
    return { ok: false, reason: total > limit ? 'too-large' : 'bad' }
  }
  if (packed.length < 18) return { ok: false, reason: 'bad' }
  const bytes = new Uint8Array(total)
  let at = 0
  for (const piece of pieces) {
    bytes.set(piece, at)
    at += piece.length
  }
  const trailer = new DataView(packed.buffer, packed.byteOffset + packed.length - 8, 8)
  const whole = trailer.getUint32(0, true) === crc32(bytes) && trailer.getUint32(4, true) === total >>> 0
  return whole ? { ok: true, bytes } : { ok: false, reason: 'bad' }
}
