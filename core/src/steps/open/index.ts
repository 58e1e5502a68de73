import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { instructions, tick } from './instructions'
import { learned, prefill } from './learn'

export const open: StepRules<'open'> = { conditions, asked, instructions, tick, learned, prefill }
