import type { StepRules } from '../../unit/rules'
import { familyOf } from './facts'

export const learned: StepRules<'identify'>['learned'] = (view) => {
  const fact = familyOf(view)
  if (!fact || fact.how === 'board') return {}
  // Unsplit, the board is known as variant A: that way of working harms neither.
  return { family: fact.verdict === 'arm968_unsplit' ? 'ARM968-A' : fact.family }
}

export const prefill: StepRules<'identify'>['prefill'] = (board) => ({
  evidence: board && Object.keys(board.markings).length > 0 ? [{ kind: 'marking', counts: board.markings }] : [],
})
