import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions, tick } from './instructions'
import { learned, prefill } from './learn'

export const wire: StepRules<'wire'> = { conditions, instructions, tick, learned, prefill }
