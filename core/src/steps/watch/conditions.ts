import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => [
  must(view.inService, 'In service.', 'Not in service yet.', 'Finish Prove.'),
]
