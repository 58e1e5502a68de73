import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { channelsOf } from '../pins/facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const channels = channelsOf(view)
  const tried = view.records.behaviour.data.channels
  const open = channels.filter((ch) => !tried.some((c) => c.ch === ch && c.tried))
  return [
    must(
      channels.length > 0 && open.length === 0,
      'Every output was tried on the unit.',
      channels.length ? `Not tried yet: channel ${open.join(', ')}.` : 'The pin template has no outputs.',
      'Set what it does after a power cut, and try it.',
    ),
  ]
}
