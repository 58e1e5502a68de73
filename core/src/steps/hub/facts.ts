import { factsOfUnit } from '../../unit/facts'
import { type HubTest, testDirections, type UnitView } from '../../unit/view'
import { stepOf } from '../../unit/way'
import { templateOf } from '../pins/facts'

/** Tests of the hub step that still rest on today's facts. */
export function standingTests(view: UnitView): HubTest[] {
  const facts = factsOfUnit(view)
  return view.hubTests.filter(
    (t) =>
      t.ok &&
      (testDirections as readonly string[]).includes(t.direction) &&
      stepOf('hub').restsOn.every((f) => (t.basis[f] ?? '') === facts[f]),
  )
}

const inputs: ReadonlySet<string> = new Set(['button', 'switch'])

/** Has it anything to press? A template says so, else whoever looked at it; not knowing counts as yes. */
export function hasInput(view: UnitView): boolean {
  if (view.records.hub.data.noButton) return false
  const pins = templateOf(view)?.pins
  return !pins || pins.length === 0 || pins.some((p) => inputs.has(p.fn))
}
