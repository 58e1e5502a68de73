import { factsOfUnit } from './facts'
import { mostRests } from './fields'
import type { UnitView } from './view'
import { type StepId, stepOf } from './way'

/**
 * What somebody saw, tried or cut holds for what it was a look at. A record keeps what its look rested on, as one text; records of
 * older versions do not say, and count until their step is stale.
 */

/** What a look at this step rests on now. */
export function lookRests(view: UnitView, step: StepId): string {
  const facts = factsOfUnit(view)
  return stepOf(step)
    .restsOn.map((f) => facts[f])
    .join(' | ')
    .slice(0, mostRests)
}

/** Nothing that the step rested on when it was done is another now; true as well of one that was never done. */
export function restsAsDone(view: UnitView, step: StepId): boolean {
  const { done } = view.records[step]
  if (done === null) return true
  const facts = factsOfUnit(view)
  return stepOf(step).restsOn.every((f) => (done.basis[f] ?? '') === facts[f])
}

/** @param on what the look rested on, as its record keeps it */
export const lookHolds = (view: UnitView, step: StepId, on: string | null | undefined): boolean =>
  typeof on === 'string' ? on === lookRests(view, step) : restsAsDone(view, step)
