import { grouped } from '../../bytes/text'
import { type Condition, decisionLength, longEnough, must } from '../../unit/condition'
import type { UnitFile, UnitView } from '../../unit/view'
import { backupOf, flashBytesOf, readOnceForGood, wholeRead } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const backup = backupOf(view)
  const skip = view.records.backup.data.skip
  if (skip && backup.state !== 'verified')
    return [
      must(
        longEnough(skip.reason),
        backup.first ? 'Read once; the second read was skipped, with a reason.' : 'Skipped, with a reason.',
        'The reason for having no backup is too short.',
        `Write a sentence of at least ${decisionLength} characters.`,
      ),
    ]
  if (readOnceForGood(view))
    return [
      must(
        wholeRead(backup.first as UnitFile, flashBytesOf(view)),
        'Read once, in the run that wrote it; it cannot be read again.',
        'The one read is not a whole chip, and it cannot be read again.',
        'Put a reason down for having no backup.',
      ),
    ]
  const words: Record<string, [string, string]> = {
    none: ['Nothing has been read yet.', 'Read the whole chip twice.'],
    single: backup.second
      ? ['The reads agree but are not a whole chip.', 'Read the whole chip from 0.']
      : ['It was read once.', 'Enter download mode again and read it a second time.'],
    differ: ['The two reads differ.', 'Reseat the wires, lower the rate, read again.'],
  }
  const [no = '', next = ''] = words[backup.state] ?? []
  return [must(backup.state === 'verified', `Two equal reads of ${grouped(backup.bytes ?? 0)} bytes.`, no, next)]
}
