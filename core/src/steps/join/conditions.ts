import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const { address, confirmedBy } = view.records.join.data
  return [
    must(
      address.trim() !== '' && confirmedBy !== null,
      `Address ${address}, ${confirmedBy === 'match' ? 'by a sure match' : confirmedBy}.`,
      'Its address is not known.',
      'Paste a lease list or neighbour table, or type it.',
    ),
  ]
}
