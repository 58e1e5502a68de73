import type { StepRules } from '../../unit/rules'
import { backupOf, flashBytesOf } from './facts'

export const learned: StepRules<'backup'>['learned'] = (view) => {
  const backup = backupOf(view)
  return { flashBytes: backup.state === 'verified' ? (flashBytesOf(view) ?? backup.bytes) : null }
}
