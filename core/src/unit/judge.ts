import { type Assessment, assess } from './assess'
import { type GatesAt, gatesAt } from './gates'
import type { UnitView } from './view'
import type { StepId } from './way'

/** What a page of a step has to know of the unit besides its records: where it stands, and the gates in front of the step. */
export interface Judged {
  assessment: Assessment
  gates: GatesAt
}

export const judge = (view: UnitView, step: StepId): Judged => ({
  assessment: assess(view),
  gates: gatesAt(view, step),
})
