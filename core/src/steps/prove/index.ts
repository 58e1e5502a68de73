import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const prove: StepRules<'prove'> = { conditions }
