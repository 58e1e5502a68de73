import type { StepRules } from '../../unit/rules'
import { padsOf } from './facts'

export const learned: StepRules<'pads'>['learned'] = (view) => {
  const row = padsOf(view)
  const { pads, pitchMm, bootBy, regulator5v, rows = 1, onPhoto = null, readings = [] } = row
  const { moduleId = null, contacts = [], rowGap = null } = row
  return { pads: { pads, pitchMm, bootBy, regulator5v, rows, onPhoto, readings, moduleId, contacts, rowGap } }
}

// The readings were taken on another unit: they stay with the board, as its evidence.
export const prefill: StepRules<'pads'>['prefill'] = (board) => (board?.pads ? { ...board.pads, readings: [] } : {})
