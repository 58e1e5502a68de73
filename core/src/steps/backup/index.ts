import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions } from './instructions'
import { learned } from './learn'

export const backup: StepRules<'backup'> = { conditions, instructions, learned }
