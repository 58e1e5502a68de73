import { railLearned } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { instructions, tick } from './instructions'

export const close: StepRules<'close'> = {
  conditions,
  asked,
  instructions,
  tick,
  learned: (view) => ({ railOhms: railLearned(view, 'close') }),
}
