import type { DumpInspection } from '../../dump/inspect'
import { dayOf } from '../../edge/day'
import type { Family } from '../../families/families'
import { parseFlashId } from '../../flash/flash-id'
import { planRestore, type RestorePlan } from '../../flash/restore'
import type { UnitFile, UnitView } from '../../unit/view'
import { familyOf } from '../identify/facts'

export function flashBytesOf(view: UnitView): number | null {
  const id = parseFlashId(view.records.backup.data.flashId)
  if (id?.flashBytes) return id.flashBytes
  return view.board?.flashBytes ?? null
}

export interface BackupFact {
  state: 'verified' | 'single' | 'skipped' | 'differ' | 'none'
  first: UnitFile | null
  second: UnitFile | null
  bytes: number | null
}

/** Nothing speaks against it, and it is as long as the chip. */
export const wholeRead = (file: UnitFile, flashBytes: number | null) => {
  const found = file.inspection as DumpInspection | null
  return !found?.findings.some((f) => f.severity === 'error') && (flashBytes === null || file.bytes === flashBytes)
}

/** Newest first and second read of the unit's chip, and whether they agree. */
export function backupOf(view: UnitView): BackupFact {
  const reads = (n: number) => view.files.find((f) => f.kind === 'dump' && f.read === n) ?? null
  const first = reads(1)
  const second = reads(2)
  const bytes = first?.bytes ?? null
  if (first && second) {
    const verified = first.sha256 === second.sha256 && wholeRead(first, flashBytesOf(view))
    return { state: verified ? 'verified' : first.sha256 === second.sha256 ? 'single' : 'differ', first, second, bytes }
  }
  // A reason for having none does not outweigh a read that was made after all.
  if (first) return { state: 'single', first, second, bytes }
  return { state: view.records.backup.data.skip ? 'skipped' : 'none', first, second, bytes }
}

/** There is one read, of a chip that was written in the same run: only a twin can be held against it. */
export function readOnceForGood(view: UnitView): boolean {
  const { first, second } = backupOf(view)
  return view.records.backup.data.oneRun && first !== null && second === null
}

/** A kept copy of the stock firmware of another unit of the same board. */
export interface TwinBackup {
  number: number
  name: string
  family: Family | null
  state: BackupFact['state']
  file: Pick<UnitFile, 'id' | 'name' | 'sha256' | 'bytes' | 'held'>
}

/** Units of the same board whose stock firmware is kept: with a warning, one can stand in for a lost one. */
export const twinsOf = (view: UnitView, units: readonly UnitView[]): TwinBackup[] =>
  units.flatMap((u) => {
    if (u.id === view.id || !view.board || u.board?.id !== view.board.id) return []
    const { state, first } = backupOf(u)
    return first ? [{ number: u.number, name: u.name, family: familyOf(u)?.family ?? null, state, file: first }] : []
  })

/** Putting stock firmware back: this unit's own, or that of a twin. */
export function restoreOf(view: UnitView, twin: TwinBackup | null = null): RestorePlan {
  const fact = familyOf(view)
  const backup = backupOf(view)
  return planRestore({
    family: fact?.family ?? null,
    unsplit: fact?.verdict === 'arm968_unsplit',
    flashBytes: flashBytesOf(view),
    backup: twin
      ? { state: twin.state, bytes: twin.file.bytes, sha256: twin.file.sha256 }
      : { state: backup.state, bytes: backup.bytes, sha256: backup.first?.sha256 ?? null },
    fromUnit: twin?.number ?? null,
    fromFamily: twin?.family ?? null,
  })
}

/** The day a restore test of a verified copy is due; null without one. */
export function restoreDue(view: UnitView): string | null {
  const backup = backupOf(view)
  if (backup.state !== 'verified' || !backup.first) return null
  const { restoreTested, restoreMonths } = view.records.backup.data
  const from = new Date(`${restoreTested ?? dayOf(backup.first.createdAt, view.zone)}T00:00:00Z`)
  return new Date(Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + restoreMonths, from.getUTCDate()))
    .toISOString()
    .slice(0, 10)
}
