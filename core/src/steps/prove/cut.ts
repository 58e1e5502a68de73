import { factsOfUnit } from '../../unit/facts'
import type { StepData } from '../../unit/records'
import type { UnitView } from '../../unit/view'
import { stepOf } from '../../unit/way'

type PowerCut = NonNullable<StepData['prove']['powerCut']>

/** What a power cut proves something of, as one text: firmware, what its outputs are set to come back as, hub. */
export function proofRests(view: UnitView): string {
  const facts = factsOfUnit(view)
  return stepOf('prove')
    .restsOn.map((f) => facts[f])
    .join(' | ')
    .slice(0, 1000)
}

/** The power cut of the unit as it is now; one from before another firmware, setting or hub proves nothing of it. */
export function powerCutOf(view: UnitView): PowerCut | null {
  const { data, done } = view.records.prove
  const cut = data.powerCut
  if (cut === null) return null
  if (typeof cut.on === 'string') return cut.on === proofRests(view) ? cut : null
  if (done === null) return cut
  const facts = factsOfUnit(view)
  return stepOf('prove').restsOn.every((f) => (done.basis[f] ?? '') === facts[f]) ? cut : null
}

/** What the record says after a cut, or after something more was said of it. */
export const withCut = (view: UnitView, said: Partial<PowerCut>): PowerCut => ({
  seconds: 10,
  cameBack: null,
  rejoinSeconds: null,
  ...powerCutOf(view),
  ...said,
  on: proofRests(view),
})
