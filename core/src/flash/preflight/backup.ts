import { type Finding, finding } from '../../edge/finding'
import { headerless } from '../../families/families'
import type { ImageInspection } from '../../image/inspect'
import type { PreflightUnit, WriteWish } from './question'

/** A shorter reason is none. */
const skipReasonLength = 15

export function backupFindings(unit: PreflightUnit): Finding[] {
  const { state, bytes, reason } = unit.backup
  if (state === 'none')
    return [
      finding(
        'no-backup',
        'error',
        'There is no copy of the stock firmware.',
        'Without one, a wrong guess is scrap.',
        'Read it twice, or record why not.',
      ),
    ]
  if (state === 'skipped') {
    const length = (reason ?? '').trim().length
    if (length < skipReasonLength)
      return [
        finding(
          'skip-reason',
          'error',
          'The reason for having no backup is too short.',
          `${length} characters; ${skipReasonLength} are the least.`,
          'Write a sentence.',
        ),
      ]
    return [
      finding(
        'backup-skipped',
        'watch',
        'The stock firmware is not kept.',
        reason ?? '',
        'There will be no way back to it.',
      ),
    ]
  }
  const out: Finding[] = []
  if (state === 'single')
    out.push(
      finding(
        'backup-single',
        'watch',
        'The stock firmware was read only once.',
        'One read may hold a fault nobody sees.',
        'Read it a second time and compare.',
      ),
    )
  if (bytes !== null && unit.flashBytes !== null && bytes !== unit.flashBytes)
    out.push(
      finding(
        'backup-size',
        'error',
        `The backup has ${bytes} bytes, the chip ${unit.flashBytes}.`,
        '',
        'Read the whole chip.',
      ),
    )
  return out
}

export function eraseFindings(
  unit: PreflightUnit,
  image: ImageInspection,
  wish: WriteWish,
  keepBelow: number,
): Finding[] {
  if (!wish.eraseAll)
    return headerless(unit.family)
      ? []
      : [
          finding(
            'old-settings-stay',
            'ok',
            'Leftovers of the other firmware stay on the chip and may be read as settings.',
            'Only the written sectors are erased.',
            'Erase the whole chip when another firmware moves in.',
          ),
        ]
  const out: Finding[] = []
  if (keepBelow === 0 && headerless(unit.family))
    out.push(
      finding(
        'erase-loses-calibration',
        unit.backup.state === 'verified' ? 'watch' : 'error',
        'Erasing the whole chip loses the unit’s own address and radio calibration.',
        'Nothing makes them again.',
        'Erase by regions, or have a verified backup first.',
      ),
    )
  const first = image.images[0]
  const alone =
    image.kind === 'bootloader' ||
    image.kind === 'partition-table' ||
    (image.kind === 'app' && first?.format === 'extended')
  if (alone)
    out.push(
      finding(
        'erase-removes-boot',
        'error',
        'Erasing the whole chip removes what this file needs to start.',
        `The file is only a part: ${image.kind}.`,
        'Erase by regions, or write the whole-chip file.',
      ),
    )
  return out
}
