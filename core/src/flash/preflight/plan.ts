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
  const whole = wish.eraseAll && unit.flashBytes !== null
  const erase = whole ? ((unit.flashBytes as number) / 65536) * 0.15 : (eraseBytes / sectorBytes) * 0.045
  const link = linkSeconds(length, wish.baud, k)
  const write = Math.max(link, (length / 256) * 0.0007)
  const verify = wish.verify === 'digest' ? length / 1048576 : wish.verify === 'readback' ? link : 0
  return {
    erase: wish.eraseAll ? 'chip' : 'regions',
    regions: [{ offset, length, eraseOffset, eraseBytes, source: wish.fileName, sha256: image.sha256 ?? '' }],
    payloadBytes: length,
    eraseSectors: whole ? (unit.flashBytes as number) / sectorBytes : eraseBytes / sectorBytes,
    seconds: {
      erase: roundTenth(erase),
      write: roundTenth(write),
      verify: roundTenth(verify),
      total: roundTenth(erase + write + verify),
    },
  }
}
