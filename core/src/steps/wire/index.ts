import { refitConditions } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions, tick } from './instructions'
import { leadConditions } from './leads'
import { learned, prefill } from './learn'
import { ownLeadConditions } from './own-leads'

export const wire: StepRules<'wire'> = {
  conditions,
  asked: (view) => [...ownLeadConditions(view), ...leadConditions(view), ...refitConditions(view, 'wire')],
  instructions,
  tick,
  learned,
  prefill,
}
