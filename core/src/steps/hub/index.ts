import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { prefill } from './learn'

export const hub: StepRules<'hub'> = { conditions, prefill }
