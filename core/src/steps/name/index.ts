import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const name: StepRules<'name'> = { conditions }
