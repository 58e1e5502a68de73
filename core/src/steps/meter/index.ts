import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { learned, prefill } from './learn'

export const meter: StepRules<'meter'> = { conditions, learned, prefill }
