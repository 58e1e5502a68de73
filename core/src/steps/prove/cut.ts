import { lookHolds, lookRests } from '../../unit/look'
import type { StepData } from '../../unit/records'
import type { UnitView } from '../../unit/view'

type PowerCut = NonNullable<StepData['prove']['powerCut']>

/** The power cut of the unit as it is now; one from before another firmware, setting or hub proves nothing of it. */
export function powerCutOf(view: UnitView): PowerCut | null {
  const cut = view.records.prove.data.powerCut
  return cut && lookHolds(view, 'prove', cut.on) ? cut : null
}

/** What the record says after a cut, or after something more was said of it. */
export const withCut = (view: UnitView, said: Partial<PowerCut>): PowerCut => ({
  seconds: 10,
  cameBack: null,
  rejoinSeconds: null,
  ...powerCutOf(view),
  ...said,
  on: lookRests(view, 'prove'),
})
