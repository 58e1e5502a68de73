import type { StepRules } from '../../unit/rules'
import { asked, conditions } from './conditions'
import { instructions } from './instructions'
import { learned, prefill } from './learn'

export const pads: StepRules<'pads'> = { conditions, asked, instructions, learned, prefill }
