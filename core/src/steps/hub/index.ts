import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const hub: StepRules<'hub'> = { conditions }
