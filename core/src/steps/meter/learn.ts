import type { StepRules } from '../../unit/rules'

export const prefill: StepRules<'meter'>['prefill'] = (board) => ({ noMeter: !board.hasMeter })
