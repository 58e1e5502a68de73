import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'arrive'>['learned'] = (view) => ({ ratedAmps: view.records.arrive.data.ratedAmps })

export const prefill: StepRules<'arrive'>['prefill'] = (board) => ({ ratedAmps: board.ratedAmps })
