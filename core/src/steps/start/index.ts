import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { learned } from './learn'

export const start: StepRules<'start'> = { conditions, learned }
