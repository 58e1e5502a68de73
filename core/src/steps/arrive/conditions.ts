import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const { triedAsSold } = view.records.arrive.data
  return [
    must(
      view.board !== null,
      `It is a ${view.board?.name}.`,
      'The board is not named yet.',
      'Choose a known board, or name a new one.',
    ),
    must(view.route !== null, 'A route is chosen.', 'No route is chosen.', 'Choose how it will get its firmware.'),
    must(
      triedAsSold !== null,
      triedAsSold === 'faulty' ? 'Tried as sold: faulty.' : 'Tried as sold: it works.',
      'It has not been tried as sold.',
      'Plug it in once, closed, and see whether it works at all.',
    ),
  ]
}
