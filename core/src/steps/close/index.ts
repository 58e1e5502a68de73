import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions, tick } from './instructions'

export const close: StepRules<'close'> = { conditions, instructions, tick }
