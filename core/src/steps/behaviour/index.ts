import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'

export const behaviour: StepRules<'behaviour'> = { conditions }
