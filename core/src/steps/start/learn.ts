import { imageMode } from '../../image/inspect'
import type { StepRules } from '../../unit/rules'
import { bootOf } from './facts'

/** A start that was seen proves the mode of the image that was written, for every unit of the board. */
export const learned: StepRules<'start'>['learned'] = (view) => {
  if (bootOf(view)?.mode !== 'flash') return {}
  const mode = imageMode(view.image?.inspection)
  const known = view.board?.provenModes ?? []
  return mode && !known.includes(mode) ? { provenModes: [...known, mode] } : {}
}
