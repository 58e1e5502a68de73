import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { learned, prefill } from './learn'

export const meter: StepRules<'meter'> = { conditions, asked, learned, prefill }
