import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { prefill } from './learn'

export const hub: StepRules<'hub'> = { conditions, asked, prefill }
