import { sizeWords } from '../../bytes/text'
import { type Finding, finding } from '../../edge/finding'
import { isArm968 } from '../../families/families'
import type { ImageInspection } from '../../image/inspect'
import { flashIdFindings, parseFlashId } from '../flash-id'
import type { PreflightUnit } from './question'

export function familyFindings(unit: PreflightUnit): Finding[] {
  const { family, familyVerdict: verdict } = unit
  const arm = isArm968(family)
  const oneMore = 'Make one more check under Identify, or only read.'
  if (verdict === 'conflict' || verdict === 'undecided' || family === 'OTHER' || (verdict === 'arm968_unsplit' && !arm))
    return [
      finding(
        'family-unproven',
        'error',
        'The family is not certain enough to write.',
        `Verdict: ${verdict ?? 'none'}, family ${family}.`,
        oneMore,
      ),
    ]
  if (verdict === 'likely')
    return [
      finding('family-likely', 'watch', `The family is likely ${family}, not certain.`, 'Verdict: likely.', oneMore),
    ]
  if (verdict === 'arm968_unsplit')
    return [
      finding(
        'variant-unproven',
        'watch',
        'ARM968 variant A or B is not proven: nothing below 0x11000 is touched.',
        'Both variants look the same.',
        'Name the variant the image is made for.',
      ),
    ]
  return []
}

export function chipFindings(unit: PreflightUnit): Finding[] {
  if (!unit.flashId) return []
  const id = parseFlashId(unit.flashId)
  if (!id)
    return [
      finding(
        'flash-id-capacity',
        'watch',
        `“${unit.flashId}” is no chip id.`,
        'Three bytes in hex are due.',
        'Read the chip id again.',
      ),
    ]
  const wrong = flashIdFindings(id)
  if (wrong.length > 0 || id.flashBytes === null) return wrong
  if (unit.flashBytes !== null && id.flashBytes !== unit.flashBytes)
    return [
      finding(
        'flash-id-mismatch',
        'error',
        `The chip id says ${sizeWords(id.flashBytes)}, the record says ${sizeWords(unit.flashBytes)}.`,
        '',
        'Correct the record, or look for a re-marked chip.',
      ),
    ]
  return []
}

export function modeFindings(unit: PreflightUnit, image: ImageInspection): Finding[] {
  const first = image.images[0]
  // The boot ROM reads the mode from the header at the chip's boot offset: an app alone carries one without effect.
  if (!first?.mode || (first.format === 'extended' && image.kind === 'app')) return []
  const patch = 'Use a DOUT build of the same file.'
  const impossible = (because: string) => [
    finding(
      'mode-not-possible',
      'error',
      `${first.mode} cannot work here: it would write and verify, and then never start.`,
      because,
      patch,
    ),
  ]
  if (first.family === 'LX106' && unit.inPackageFlash && first.mode !== 'DOUT')
    return impossible('The flash is inside the package and has two data lines in output mode only.')
  if (unit.dataLines === 2 && (first.mode === 'QIO' || first.mode === 'QOUT'))
    return impossible('Only two data lines go to the flash.')
  if (first.mode === 'DOUT' || unit.provenModes.includes(first.mode)) return []
  return [
    finding(
      'mode-unproven',
      'watch',
      `${first.mode} has not been seen starting on this board.`,
      `Proven modes: ${unit.provenModes.join(', ') || 'none yet'}.`,
      `${patch} DOUT works nearly everywhere.`,
    ),
  ]
}
