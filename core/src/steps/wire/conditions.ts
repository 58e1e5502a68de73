import { type Condition, firstError, must } from '../../unit/condition'
import { fromOthers } from '../../unit/own-look'
import type { UnitView } from '../../unit/view'
import { padStateOf, railsOpen, railsProven } from '../pads/facts'
import { wiringOf } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const plan = wiringOf(view)
  const error = plan ? firstError(plan.findings.filter((f) => f.code !== 'mains-on')) : undefined
  return [
    must(
      view.adapter !== null,
      `${view.adapter?.name} is chosen.`,
      'No adapter is chosen.',
      'Choose one from the kit.',
    ),
    must(
      plan !== null,
      'The way in is chosen.',
      'The way into download mode is not chosen.',
      'Choose how BOOT is held.',
    ),
    must(
      railsProven(view),
      padStateOf(view).readings > 0 ? 'GND and 3V3 are proven.' : `GND and 3V3 as measured ${fromOthers(view)}.`,
      railsOpen(view).says,
      'Under Find the pads: a label alone never opens the way to power.',
    ),
    must(
      plan !== null && error === undefined,
      `${plan?.connections.length} leads, nothing against it.`,
      error?.message ?? 'There is no plan yet.',
      error?.next ?? 'Choose adapter and entry.',
    ),
  ]
}
