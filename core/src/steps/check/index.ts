import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const check: StepRules<'check'> = { conditions }
