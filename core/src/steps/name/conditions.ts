import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => [
  must(view.name.trim() !== '', `It is called ${view.name}.`, 'It has no name.', 'Give it the name people say.'),
  must(view.slugClash === null, `Its topic is ${view.topic ?? ''}.`, view.slugClash ?? '', 'Change one of the names.'),
  must(
    view.records.name.data.reserved,
    'Its address is reserved.',
    'Its address is not reserved.',
    'Reserve it in the DHCP server, then say so.',
  ),
]
