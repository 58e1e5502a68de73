import { factsOfUnit } from '../../unit/facts'
import type { HubTest, UnitView } from '../../unit/view'
import { stepOf } from '../../unit/way'

/** Tests of the hub step that still rest on today's facts. */
export function standingTests(view: UnitView): HubTest[] {
  const facts = factsOfUnit(view)
  return view.hubTests.filter((t) => t.ok && stepOf('hub').restsOn.every((f) => (t.basis[f] ?? '') === facts[f]))
}
