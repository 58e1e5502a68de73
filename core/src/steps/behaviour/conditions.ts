import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { channelsOf } from '../pins/facts'
import { behaviourOf, isTried, openLoadFindings } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const channels = channelsOf(view)
  const tried = view.records.behaviour.data.channels
  const open = channels.filter((ch) => !tried.some((c) => c.ch === ch && isTried(view, c)))
  const stranded = behaviourOf(view)?.stranded ?? []
  const unsafe = openLoadFindings(view).filter((f) => f.severity === 'error')
  return [
    must(
      channels.length > 0 && open.length === 0,
      'Every output was tried on the unit.',
      channels.length ? `Not tried yet: channel ${open.join(', ')}.` : 'The pin template has no outputs.',
      'Set what it does after a power cut, and try it.',
    ),
    ...(stranded.length === 0
      ? []
      : [
          must(
            false,
            '',
            `Rules name what is not in the template: ${stranded.map((r) => r.id).join(', ')}.`,
            'Take them out, or put the pin back.',
          ),
        ]),
    ...(unsafe.length === 0
      ? []
      : [
          must(
            false,
            '',
            `${unsafe[0]?.at.replace('ch', 'Channel ')}: ${unsafe[0]?.message}`,
            unsafe[0]?.next || 'Change it, or have somebody decide it by name.',
          ),
        ]),
  ]
}
