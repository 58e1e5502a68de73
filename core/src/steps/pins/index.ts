import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { learned, prefill } from './learn'

export const pins: StepRules<'pins'> = { conditions, asked, learned, prefill }
