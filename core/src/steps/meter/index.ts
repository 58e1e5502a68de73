import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { prefill } from './learn'

export const meter: StepRules<'meter'> = { conditions, prefill }
