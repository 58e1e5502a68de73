import { hexNumber } from '../bytes/text'
import { type Finding, finding } from '../edge/finding'

/** Bytes of a flash chip from the capacity byte of its id; null when the byte has no size. */
export function flashBytesOfCapacity(c: number): number | null {
  if (c >= 0x12 && c <= 0x1c) return 2 ** c
  if (c >= 0x20 && c <= 0x22) return (64 << (c - 0x20)) * 1048576
  if (c >= 0x32 && c <= 0x3a) return 2 ** (c - 0x20)
  return null
}

export interface FlashId {
  manufacturer: number
  type: number
  capacity: number
  flashBytes: number | null
}

/** Three bytes, manufacturer first, in the ways people write them (68 40 14, 684014, 0x684014, 68:40:14); null if not. */
export function parseFlashId(text: string): FlashId | null {
  const hex = text
    .trim()
    .replace(/^0x/i, '')
    .replace(/[\s:-]/g, '')
  if (!/^[0-9a-fA-F]{6}$/.test(hex)) return null
  const [manufacturer, type, capacity] = [0, 2, 4].map((i) => Number.parseInt(hex.slice(i, i + 2), 16)) as [
    number,
    number,
    number,
  ]
  return { manufacturer, type, capacity, flashBytes: flashBytesOfCapacity(capacity) }
}

/** 00 00 00 and FF FF FF mean that the chip did not answer. */
export const flashIdAnswered = (id: FlashId): boolean =>
  !(id.manufacturer === id.type && id.type === id.capacity && (id.capacity === 0 || id.capacity === 0xff))

/** What is wrong with an id as it was read. */
export function flashIdFindings(id: FlashId): Finding[] {
  if (!flashIdAnswered(id))
    return [
      finding(
        'flash-id-no-answer',
        'error',
        'The flash chip did not answer.',
        '',
        'Check wires, power and download mode.',
      ),
    ]
  if (id.flashBytes !== null) return []
  const swapped = flashBytesOfCapacity(id.manufacturer)
  return [
    finding(
      'flash-id-capacity',
      'watch',
      `Size byte ${hexNumber(id.capacity)} is unknown.`,
      swapped === null ? '' : `The first byte ${hexNumber(id.manufacturer)} would be one.`,
      swapped === null
        ? 'Read the chip id again.'
        : 'Some tools print the packed number with the manufacturer last: are the bytes in reverse order?',
    ),
  ]
}
