import type { Instruction } from '../boot/entry'
import type { BoardFacts } from './board'
import type { Condition } from './condition'
import type { StepData } from './records'
import type { BoardKnowledge, UnitView } from './view'
import type { StepId } from './way'

/** Things of which the workshop has exactly one; null where it has none or several. */
export interface OnlyOnes {
  hubId: string | null
  instrumentId: string | null
  adapterId: string | null
}

export const noOnlyOnes: OnlyOnes = { hubId: null, instrumentId: null, adapterId: null }

/** What a step adds to the way: each one exports this from its folder, and nothing else reads its record's fields. */
export interface StepRules<S extends StepId> {
  /** What must hold before it is done; gates are asked apart. */
  conditions: (view: UnitView) => Condition[]
  /** What is asked before it is done, and makes nothing stale later: questions that older records were never asked. */
  asked?: (view: UnitView) => Condition[]
  /** Its work as single things to do; without them, what is still open is told one at a time. */
  instructions?: (view: UnitView) => Instruction[]
  /** What doing an instruction changes in its record, with the reading that was typed; null where nothing is ticked. */
  tick?: (view: UnitView, id: string, done: boolean, reading?: string) => Partial<StepData[S]> | null
  /** What finishing it on a unit teaches about the board. */
  learned?: (view: UnitView) => Partial<BoardFacts>
  /** What its record begins with: what the board is known for, and what there is only one of in the workshop. */
  prefill?: (board: BoardKnowledge | null, only: OnlyOnes) => Partial<StepData[S]>
}

/** A list with `what` in it, or without. */
export const listed = <T>(list: readonly T[], what: T, done: boolean): T[] => [
  ...list.filter((x) => x !== what),
  ...(done ? [what] : []),
]
