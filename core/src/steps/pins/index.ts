import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { learned, prefill } from './learn'

export const pins: StepRules<'pins'> = { conditions, learned, prefill }
