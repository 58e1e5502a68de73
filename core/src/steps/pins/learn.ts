import type { StepRules } from '../../unit/rules'
import { templateOf } from './facts'

export const learned: StepRules<'pins'>['learned'] = (view) => ({ template: templateOf(view) })

export const prefill: StepRules<'pins'>['prefill'] = (board) => ({ template: board?.template ?? null })
