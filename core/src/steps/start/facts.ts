import { type BootLog, readBootLog } from '../../boot/boot-log'
import { lookHolds, lookRests } from '../../unit/look'
import type { StepData } from '../../unit/records'
import type { UnitView } from '../../unit/view'

type Data = StepData['start']
/** Nobody has seen anything of it. */
const unseen = { log: '', seenBy: null, strapFree: false, answers: [] } satisfies Partial<Data>

/** Was what is recorded seen of what stands on the chip now? After another write it was a start of something else. */
const seenOfThis = (view: UnitView): boolean => lookHolds(view, 'start', view.records.start.data.on)

/** What was seen of the start of what stands on the chip now. */
export const startLooks = (view: UnitView): Data =>
  seenOfThis(view) ? view.records.start.data : { ...view.records.start.data, ...unseen }

/** What the record says after a look: what was seen of another image goes, and undo brings it back. */
export const afterLook = (view: UnitView, seen: Partial<Data>): Partial<Data> => ({
  ...(seenOfThis(view) ? {} : unseen),
  ...seen,
  on: lookRests(view, 'start'),
})

export function bootOf(view: UnitView): BootLog | null {
  if (!seenOfThis(view)) return null
  const { log } = view.records.start.data
  if (log.trim() === '') return view.boots?.start ?? null
  const outcome = readBootLog({ text: log })
  return outcome.ok ? outcome.value : null
}
