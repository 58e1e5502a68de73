import { type Finding, worstOf } from '../../edge/finding'
import { headerless, keptBelow } from '../../families/families'
import { fitFindings, overSerial } from '../../image/fit'
import { at, type FileFinding } from '../../image/image'
import { type ImageInspection, sortFindings } from '../../image/inspect'
import { backupFindings, eraseFindings } from './backup'
import { chipFindings, familyFindings, modeFindings } from './chip'
import { nameFindings } from './file-name'
import { placeFindings } from './place'
import { planOf, usualOverhead } from './plan'
import type { Preflight, PreflightUnit, WriteWish } from './question'

/**
 * Everything that speaks for and against writing this file to this unit, and the plan when nothing stops it.
 * @param k overhead of the link, from the last good writes with the adapter
 */
export function preflight(unit: PreflightUnit, image: ImageInspection, wish: WriteWish, k = usualOverhead): Preflight {
  const keepBelow = keptBelow(unit.family, unit.familyVerdict === 'arm968_unsplit')
  const place = placeFindings(unit, image, wish, keepBelow)
  const content = image.gzip?.bytes ?? image.bytes
  const fit = fitFindings(image, content, {
    family: unit.family === 'OTHER' ? null : unit.family,
    flashBytes: unit.flashBytes,
  })
  const known = new Set(image.findings.map((f) => f.code))
  const ofFile = [...image.findings, ...fit.filter((f) => !known.has(f.code))].map(overSerial).map((f): FileFinding => {
    // A stored inspection knows no unit: files of these families have no header to miss.
    if (f.code === 'unknown-format' && headerless(unit.family))
      return at(
        f.at,
        f.code,
        'watch',
        f.message,
        f.because,
        'Files of this family have none: make sure where it came from.',
      )
    return f
  })
  const first = image.images[0]
  const consulted = image.kind === 'app' && first?.format === 'extended' && keepBelow === 0
  const unplaced = (f: Finding): FileFinding => ({ ...f, at: null })
  const findings = [
    ...familyFindings(unit).map(unplaced),
    ...ofFile,
    ...(consulted ? (unit.layoutFindings ?? []) : []),
    ...chipFindings(unit).map(unplaced),
    ...modeFindings(unit, image).map(unplaced),
    ...place.findings.map(unplaced),
    ...backupFindings(unit).map(unplaced),
    ...eraseFindings(unit, image, wish, keepBelow).map(unplaced),
    ...nameFindings(unit, image, wish).map(unplaced),
  ]
  const worst = worstOf(findings)
  const verdict = worst === 'error' ? 'stop' : worst === 'watch' ? 'warn' : 'go'
  return {
    verdict,
    kind: image.kind,
    expectedOffset: place.expected,
    findings: sortFindings(findings),
    plan: verdict === 'stop' ? null : planOf(unit, image, wish, place.offset, k),
  }
}
