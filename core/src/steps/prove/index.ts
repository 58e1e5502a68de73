import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'

export const prove: StepRules<'prove'> = { conditions, asked }
