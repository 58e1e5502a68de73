import { type BootLog, readBootLog } from '../../boot/boot-log'
import type { UnitView } from '../../unit/view'

export function bootOf(view: UnitView): BootLog | null {
  const { log } = view.records.start.data
  if (log.trim() === '') return view.boots?.start ?? null
  const outcome = readBootLog({ text: log })
  return outcome.ok ? outcome.value : null
}
