import { railLearned, refitConditions } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions, tick } from './instructions'

export const close: StepRules<'close'> = {
  conditions,
  asked: (view) => refitConditions(view, 'close'),
  instructions,
  tick,
  learned: (view) => ({ railOhms: railLearned(view, 'close') }),
}
