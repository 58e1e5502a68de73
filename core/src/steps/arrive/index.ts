import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { learned, prefill } from './learn'

export const arrive: StepRules<'arrive'> = { conditions, learned, prefill }
