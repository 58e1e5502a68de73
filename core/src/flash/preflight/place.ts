import { hexNumber, sizeWords } from '../../bytes/text'
import { sectorBytes } from '../../dump/sectors'
import { type Finding, finding } from '../../edge/finding'
import { placedByProfile } from '../../families/families'
import { bootOffsetOfChip } from '../../image/image'
import type { ImageInspection } from '../../image/inspect'
import type { PreflightUnit, WriteWish } from './question'

function expectedOffset(
  unit: PreflightUnit,
  image: ImageInspection,
  wish: WriteWish,
  keepBelow: number,
  out: Finding[],
): number | null {
  if (keepBelow > 0) return keepBelow
  if (placedByProfile(unit.family)) {
    const place = wish.profileOffset ?? wish.offset
    if (place === null)
      out.push(
        finding(
          'offset-unknown',
          'error',
          'Nobody has said where this file belongs.',
          'The first sectors may hold the unit’s own parameters.',
          'Choose a firmware profile that gives the offset.',
        ),
      )
    return place
  }
  const first = image.images[0]
  if (first?.format === 'lx106-2') {
    out.push(
      finding(
        'needs-boot-loader',
        'error',
        'This image cannot start alone.',
        'It lives at 0x1000 behind a loader at 0.',
        'Choose the whole file, with its loader.',
      ),
    )
    return 0x1000
  }
  if (image.kind === 'bootloader') return bootOffsetOfChip(image.chipId)
  if (image.kind === 'partition-table') return 0x8000
  if (image.kind === 'app' && first?.format === 'extended') {
    const apps = (unit.layout?.entries ?? []).filter((e) => e.type === 0)
    if (!unit.layout) {
      out.push(
        finding(
          'layout-missing',
          'error',
          'An app alone goes into an app partition, and the layout of this chip is not known.',
          '',
          'Choose the whole-chip file, or keep a backup so that the layout is known.',
        ),
      )
      return null
    }
    const chosen = apps.find((e) => e.offset === wish.offset) ?? [...apps].sort((a, b) => a.offset - b.offset)[0]
    const length = first.bytes ?? image.bytes
    if (chosen && length > chosen.length)
      out.push(
        finding(
          'slot-too-small',
          'error',
          `The app has ${length} bytes, partition “${chosen.label}” has room for ${chosen.length}.`,
          '',
          'Use a smaller build, or another layout.',
        ),
      )
    return chosen?.offset ?? null
  }
  return 0
}

export function placeFindings(
  unit: PreflightUnit,
  image: ImageInspection,
  wish: WriteWish,
  keepBelow: number,
): { expected: number | null; offset: number; findings: Finding[] } {
  const out: Finding[] = []
  const expected = expectedOffset(unit, image, wish, keepBelow, out)
  const offset = wish.offset ?? expected ?? 0
  const tooLow = offset < keepBelow || (keepBelow > 0 && wish.eraseAll)
  if (tooLow)
    out.push(
      finding(
        'keeps-boot-loader',
        'error',
        `Below ${hexNumber(keepBelow)} lies the only way back in: it is never erased or written.`,
        wish.eraseAll ? 'The whole chip was to be erased.' : `The offset given is ${hexNumber(offset)}.`,
        `Write from ${hexNumber(keepBelow)} up, by regions.`,
      ),
    )
  else if (expected !== null && offset !== expected)
    out.push(
      finding(
        'offset-wrong',
        'error',
        `The file belongs at ${hexNumber(expected)}, not at ${hexNumber(offset)}.`,
        '',
        `Set the offset to ${hexNumber(expected)}.`,
      ),
    )
  if (offset % sectorBytes)
    out.push(
      finding(
        'offset-unaligned',
        'error',
        `The offset ${hexNumber(offset)} is not the start of a sector.`,
        'Flash is erased in sectors of 4096 bytes.',
        'Choose a multiple of 0x1000.',
      ),
    )
  if (unit.flashBytes !== null && offset + image.bytes > unit.flashBytes)
    out.push(
      finding(
        'past-end',
        'error',
        `The file would end ${offset + image.bytes - unit.flashBytes} bytes past the end of the chip.`,
        `Chip ${sizeWords(unit.flashBytes)}.`,
        'Choose a smaller build, or check the flash size.',
      ),
    )
  return { expected, offset, findings: out }
}
