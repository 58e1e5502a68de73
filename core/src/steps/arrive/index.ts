import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { learned, prefill } from './learn'

export const arrive: StepRules<'arrive'> = { conditions, asked, learned, prefill }
