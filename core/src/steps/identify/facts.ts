import type { Family } from '../../families/families'
import { type FamilyVerdict, type Identification, identify } from '../../identify/identify'
import { looksOf } from '../../unit/own-look'
import { remembered } from '../../unit/remembered'
import type { UnitView } from '../../unit/view'

const identifyWith = (evidence: UnitView['records']['identify']['data']['evidence'], prior: UnitView['prior']) => {
  const outcome = identify({ evidence, ...(prior ? { prior } : {}) })
  return outcome.ok ? outcome.value : null
}

const identifyUsually = remembered((evidence: UnitView['records']['identify']['data']['evidence']) =>
  identifyWith(evidence, null),
)

export function identificationOf(view: UnitView): Identification | null {
  const { evidence } = view.records.identify.data
  return view.prior ? identifyWith(evidence, view.prior) : identifyUsually(evidence)
}

export interface FamilyFact {
  family: Family
  verdict: FamilyVerdict
  how: 'decided' | 'evidence' | 'board'
}

/** The family to work with: a recorded decision, else what the evidence says, else what the board is known to be. */
export function familyOf(view: UnitView): FamilyFact | null {
  const { decision, evidence } = view.records.identify.data
  const found = evidence.length > 0 ? identificationOf(view) : null
  if (decision)
    return {
      family: decision.family,
      verdict:
        decision.family === 'OTHER'
          ? 'undecided'
          : found?.leader === decision.family && found.verdict === 'identified'
            ? 'identified'
            : 'likely',
      how: 'decided',
    }
  // Other units' markings alone are what the board taught: nobody has looked at this one.
  if (found && !looksOf(view).identify)
    return { family: view.board?.family ?? found.leader, verdict: 'likely', how: 'board' }
  if (found && found.verdict !== 'undecided' && found.verdict !== 'conflict')
    return { family: found.leader, verdict: found.verdict, how: 'evidence' }
  if (found?.verdict === 'conflict') return { family: found.leader, verdict: 'conflict', how: 'evidence' }
  if (view.board?.family) return { family: view.board.family, verdict: 'likely', how: 'board' }
  return null
}
