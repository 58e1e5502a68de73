import { sectorBytes } from '../../dump/sectors'
import type { ImageInspection } from '../../image/inspect'
import type { PreflightUnit, WritePlan, WriteWish } from './question'

const roundTenth = (x: number) => Math.round(x * 10) / 10

/** k: framing, escapes and waits, until the good writes with an adapter have taught a better one. */
export const usualOverhead = 1.12
/** Seconds on the link for `bytes`: ten bits a byte, times k for framing, escapes and waits. */
export const linkSeconds = (bytes: number, baud: number, k = usualOverhead): number => (bytes * 10 * k) / baud

export function planOf(
  unit: PreflightUnit,
  image: ImageInspection,
  wish: WriteWish,
  offset: number,
  k: number,
): WritePlan {
  const length = image.bytes
  const eraseOffset = offset - (offset % sectorBytes)
  const eraseBytes = Math.ceil((offset + length - eraseOffset) / sectorBytes) * sectorBytes
  // The whole chip, of a size that nobody may know.
  const toErase = wish.eraseAll ? unit.flashBytes : eraseBytes
  const erase = toErase === null ? null : wish.eraseAll ? (toErase / 65536) * 0.15 : (toErase / sectorBytes) * 0.045
  const link = linkSeconds(length, wish.baud, k)
  const write = Math.max(link, (length / 256) * 0.0007)
  const verify = wish.verify === 'digest' ? length / 1048576 : wish.verify === 'readback' ? link : 0
  return {
    erase: wish.eraseAll ? 'chip' : 'regions',
    regions: [{ offset, length, eraseOffset, eraseBytes, source: wish.fileName, sha256: image.sha256 ?? '' }],
    payloadBytes: length,
    eraseSectors: toErase === null ? null : toErase / sectorBytes,
    seconds: {
      erase: erase === null ? null : roundTenth(erase),
      write: roundTenth(write),
      verify: roundTenth(verify),
      total: erase === null ? null : roundTenth(erase + write + verify),
    },
  }
}
