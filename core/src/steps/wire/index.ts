import { refitConditions } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions, tick } from './instructions'
import { learned, prefill } from './learn'
import { tieConditions } from './ties'

export const wire: StepRules<'wire'> = {
  conditions,
  asked: (view) => [...tieConditions(view), ...refitConditions(view, 'wire')],
  instructions,
  tick,
  learned,
  prefill,
}
