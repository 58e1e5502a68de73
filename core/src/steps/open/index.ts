import type { StepRules } from '../../unit/rules'
import { conditions } from './conditions'
import { instructions, tick } from './instructions'
import { learned, prefill } from './learn'

export const open: StepRules<'open'> = { conditions, instructions, tick, learned, prefill }
