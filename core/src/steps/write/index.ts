import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions } from './instructions'

export const write: StepRules<'write'> = { conditions, instructions }
