import { dayOf, dayWords } from '../../edge/day'
import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** How its address is kept, and whether it was heard from there. */
function keptWords(view: UnitView): string {
  const { reserved, kept, seenAt } = view.records.name.data
  const how = reserved
    ? 'Its address is reserved'
    : kept === 'lookup'
      ? 'It is found by its name, not by an address'
      : 'Its address is fixed in it'
  const heard = seenAt !== null && seenAt.address === view.records.join.data.address.trim()
  return heard ? `${how}, and it was heard from there on ${dayWords(dayOf(seenAt.at, view.zone))}.` : `${how}.`
}

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
    view.records.name.data.reserved || view.records.name.data.kept !== null,
    keptWords(view),
    'Its address is not reserved.',
    'Reserve it in the DHCP server, then say so; or say how it is found otherwise.',
  ),
]
