import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const join: StepRules<'join'> = { conditions }
