import type { Instruction } from '../../boot/entry'
import type { UnitView } from '../../unit/view'
import { entryInstructions } from '../wire/instructions'

export const instructions = (view: UnitView): Instruction[] => entryInstructions(view, 'read')
