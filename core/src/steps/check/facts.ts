import { worstOf } from '../../edge/finding'
import { buildFindings } from '../../flash/own-build'
import { preflight } from '../../flash/preflight/preflight'
import type { Preflight, PreflightUnit } from '../../flash/preflight/question'
import { writesTried } from '../../flash/tried'
import { type ImageInspection, sortFindings } from '../../image/inspect'
import { chipLayoutOf } from '../../unit/chip-layout'
import type { UnitFile, UnitView } from '../../unit/view'
import { routes } from '../../unit/way'
import { backupOf, flashBytesOf } from '../backup/facts'
import { familyOf } from '../identify/facts'

/** The backup as it counts before a write: a chip that never held the maker's firmware has none to keep. */
function backupCounted(view: UnitView): PreflightUnit['backup'] {
  const { state, bytes } = backupOf(view)
  const reason = view.route && routes[view.route].noStock
  if (reason && state === 'none') return { state: 'skipped', bytes: null, reason }
  return {
    state: state === 'differ' ? 'none' : state,
    bytes,
    reason: view.records.backup.data.skip?.reason ?? null,
  }
}

export function preflightOf(view: UnitView): Preflight | null {
  const image = view.image
  const fact = familyOf(view)
  if (!image?.inspection || !fact) return null
  const { eraseAll, baud, verify, dataLines, offset } = view.records.check.data
  const layout = chipLayoutOf(view, flashBytesOf(view))
  const flashId = view.records.backup.data.flashId.trim()
  const judged = preflight(
    {
      family: fact.family,
      familyVerdict: fact.verdict,
      flashBytes: flashBytesOf(view),
      flashId: flashId === '' ? null : flashId,
      dataLines,
      inPackageFlash: view.board?.inPackageFlash ?? false,
      provenModes: view.board?.provenModes ?? [],
      backup: backupCounted(view),
      layout: layout?.table ?? null,
      layoutFindings: layout?.findings ?? [],
    },
    image.inspection as ImageInspection,
    {
      fileName: image.name,
      offset,
      eraseAll,
      baud,
      verify,
      variant: view.records.check.data.variant,
      language: view.records.check.data.language,
      profileOffset: view.startOffsets[view.records.check.data.firmware]?.[fact.family] ?? null,
    },
    writesTried(view).overheads[view.adapter?.name ?? ''],
  )
  return withBuild(judged, view, image)
}

/** What the unit runs as far as anybody named its options: the last build that was written whole. */
const runningOptions = (view: UnitView): string[] | null =>
  view.attempts.find((a) => a.outcome === 'done')?.options ?? null

/** What the build itself says against this unit counts like what its bytes say. */
function withBuild(judged: Preflight, view: UnitView, image: UnitFile): Preflight {
  const own = buildFindings(image, view.number, runningOptions(view))
  if (own.length === 0) return judged
  const findings = sortFindings([...own, ...judged.findings])
  const worst = worstOf(findings)
  const verdict = worst === 'error' ? 'stop' : worst === 'watch' ? 'warn' : 'go'
  return { ...judged, verdict, findings, plan: verdict === 'stop' ? null : judged.plan }
}

/** Where the chosen image is written: as entered, else where it belongs; null while nobody knows. */
export const writeOffsetOf = (view: UnitView): number | null =>
  view.records.check.data.offset ?? preflightOf(view)?.expectedOffset ?? null

/** The firmware that would be written now, as chosen at Check. */
export function firmwareChosen(view: UnitView): string {
  const { firmware, firmwareVersion } = view.records.check.data
  return [firmware, firmwareVersion].filter(Boolean).join(' ')
}
