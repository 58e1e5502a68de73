import { type Instruction, instruction } from '../boot/entry'
import { arrive } from '../steps/arrive'
import { wayOutConditions } from '../steps/arrive/conditions'
import { backup } from '../steps/backup'
import { behaviour } from '../steps/behaviour'
import { check } from '../steps/check'
import { close } from '../steps/close'
import { hub } from '../steps/hub'
import { identify } from '../steps/identify'
import { join } from '../steps/join'
import { meter } from '../steps/meter'
import { name } from '../steps/name'
import { open } from '../steps/open'
import { pads } from '../steps/pads'
import { pins } from '../steps/pins'
import { prove } from '../steps/prove'
import { start } from '../steps/start'
import { watch } from '../steps/watch'
import { wire } from '../steps/wire'
import { write } from '../steps/write'
import type { BoardFactKey } from './board'
import type { Condition } from './condition'
import { gateConditions, gateFirst } from './gates'
import { emptyRecord, type StepData } from './records'
import { noOnlyOnes, type OnlyOnes, type StepRules } from './rules'
import type { BoardKnowledge, UnitView } from './view'
import type { StepId } from './way'

/** The rules of every step: a new step does not compile until it has them. */
const rules: { [S in StepId]: StepRules<S> } = {
  arrive,
  open,
  identify,
  pads,
  wire,
  backup,
  check,
  write,
  start,
  join,
  pins,
  close,
  behaviour,
  meter,
  name,
  hub,
  prove,
  watch,
}

/** What must hold for `step` to be done, without gates: a gate of another day does not undo what was done. */
export const lastingConditions = (view: UnitView, step: StepId): Condition[] => rules[step].conditions(view)

/**
 * Everything that must hold for `step` to be done, gates first.
 * @param lasting its lasting conditions, where they were asked for already
 */
export const conditionsOf = (
  view: UnitView,
  step: StepId,
  lasting: readonly Condition[] = lastingConditions(view, step),
): Condition[] => [
  ...(step === 'arrive' ? [] : wayOutConditions(view)),
  ...gateConditions(view, step),
  ...lasting,
  ...(rules[step].asked?.(view) ?? []),
]

/** The instructions of a step, one at a time, for hands that are busy; where it has none, what is still open. */
export function instructionsOf(view: UnitView, step: StepId): Instruction[] {
  // A gate stands alone: its wait is no instruction among others, to be stepped over.
  const gate = gateFirst(view, step)
  return gate ? [gate] : workInstructions(view, step)
}

/** The work of a step without its gates: for paper, where they stand as boxes of their own. */
export function workInstructions(view: UnitView, step: StepId): Instruction[] {
  const own = rules[step].instructions?.(view) ?? []
  if (own.length > 0) return own
  const open = lastingConditions(view, step).filter((c) => !c.met)
  return open.map((c, i) => instruction(`open-${i}`, c.next, { look: c.text }))
}

/**
 * What doing an instruction changes in the record of its step, or null where nothing is ticked: the bench view keeps the
 * page in step with the hands. Going back takes the tick off again.
 */
export const tickOff = <S extends StepId>(
  view: UnitView,
  step: S,
  id: string,
  done: boolean,
  reading = '',
): Partial<StepData[S]> | null => (rules[step] as StepRules<S>).tick?.(view, id, done, reading) ?? null

export interface LearnedFact {
  key: BoardFactKey
  value: unknown
}

const empty = (value: unknown) =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0)

/** What finishing `step` on this unit teaches about its board. */
export const learnedFrom = (view: UnitView, step: StepId): LearnedFact[] =>
  Object.entries(rules[step].learned?.(view) ?? {}).flatMap(([key, value]) =>
    empty(value) ? [] : [{ key: key as BoardFactKey, value }],
  )

/** A step begins with everything known filled in. */
export const prefilled = <S extends StepId>(
  step: S,
  board: BoardKnowledge | null,
  only: OnlyOnes = noOnlyOnes,
): StepData[S] => ({ ...emptyRecord(step), ...(rules[step] as StepRules<S>).prefill?.(board, only) })
