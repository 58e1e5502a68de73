import { keptOf, rawMapOf } from '../../metering/raw-of-unit'
import type { StepRules } from '../../unit/rules'
import { firmwareOf } from '../write/facts'

/** Where there is one reference meter only, it is the one. */
export const prefill: StepRules<'meter'>['prefill'] = (board, only) => ({
  noMeter: board !== null && !board.hasMeter,
  instrumentId: only.instrumentId,
})

/** Raw values that are settled teach the board which is which. */
export const learned: StepRules<'meter'>['learned'] = (view) => ({
  rawMap: keptOf(rawMapOf(view), firmwareOf(view), view.number),
})
