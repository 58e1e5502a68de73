import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const watch: StepRules<'watch'> = { conditions }
