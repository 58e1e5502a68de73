import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { learned, prefill } from './learn'

export const identify: StepRules<'identify'> = { conditions, asked, learned, prefill }
