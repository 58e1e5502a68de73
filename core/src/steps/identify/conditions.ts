import { type Condition, decisionLength, longEnough, must } from '../../unit/condition'
import { fromOthers, looksOf } from '../../unit/own-look'
import type { UnitView } from '../../unit/view'
import { identificationOf } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const { decision } = view.records.identify.data
  const found = identificationOf(view)
  // Never a round 100 that nobody computed.
  const share = found ? found.posterior[found.leader] : 0
  const best = share >= 0.9995 && share < 1 ? 'over 99.9' : (share * 100).toFixed(1)
  if (decision)
    return [
      must(
        longEnough(decision.reason),
        `Decided: ${decision.family}.`,
        'The decision has no reason yet.',
        `Write a sentence of at least ${decisionLength} characters.`,
      ),
    ]
  return [
    must(
      (found?.conflicts.length ?? 0) === 0,
      'Nothing disagrees.',
      `${found?.conflicts.length} observation disagrees with the rest.`,
      'Look again at the one named, or record a decision.',
    ),
    must(
      found?.verdict === 'identified' || found?.verdict === 'arm968_unsplit',
      found?.verdict === 'arm968_unsplit'
        ? 'ARM968, variant not split: worked as variant A.'
        : `${found?.leader} at ${best} %.`,
      `The leader has ${best} %; 95 % are needed.`,
      'Make the next check, or record a decision.',
    ),
  ]
}

/** One look at this unit, whatever its board taught. */
export const asked = (view: UnitView): Condition[] =>
  view.records.identify.data.decision || !view.board?.family
    ? []
    : [
        must(
          looksOf(view).identify,
          'It was looked at.',
          `Known ${fromOthers(view)}; nobody has looked at this unit yet.`,
          'One photo or one check of its own is enough.',
        ),
      ]
