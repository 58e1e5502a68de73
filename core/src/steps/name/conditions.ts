import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => [
  must(view.name.trim() !== '', `It is called ${view.name}.`, 'It has no name.', 'Give it the name people say.'),
  // Who the others are is said on the page: it changes with them, and this is kept.
  must(
    view.slugClash === null,
    `Its topic is ${view.topic ?? ''}.`,
    'Another unit goes by the same name in topics.',
    'Change one of the names.',
  ),
  must(
    view.records.name.data.reserved,
    'Its address is reserved.',
    'Its address is not reserved.',
    'Reserve it in the DHCP server, then say so.',
  ),
]
