import type { StepRules } from '../../unit/rules'

/** Where there is one reference meter only, it is the one. */
export const prefill: StepRules<'meter'>['prefill'] = (board, only) => ({
  noMeter: board !== null && !board.hasMeter,
  instrumentId: only.instrumentId,
})
