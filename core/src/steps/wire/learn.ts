import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'wire'>['learned'] = (view) => ({ entry: view.records.wire.data.entry })

export const prefill: StepRules<'wire'>['prefill'] = (board) => ({ entry: board.entry })
