import { type Condition, must } from '../../unit/condition'
import type { HubTest, UnitView } from '../../unit/view'
import { hasInput, standingTests } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const standing = standingTests(view)
  const has = (direction: HubTest['direction']) => standing.some((t) => t.direction === direction)
  const once = (direction: HubTest['direction']) => view.hubTests.some((t) => t.ok && t.direction === direction)
  const test = (direction: HubTest['direction'], seen: string) =>
    must(
      has(direction),
      seen,
      once(direction) ? `The test ${direction} is stale.` : `Not tested: ${direction}.`,
      'Test it and say what you saw.',
    )
  return [
    must(view.records.hub.data.hubId !== null, 'A hub is chosen.', 'No hub is chosen.', 'Choose the hub.'),
    test('hub to unit', 'Hub → unit seen at the load.'),
    ...(hasInput(view)
      ? [test('button to hub', 'Button → hub seen.')]
      : [must(true, 'It has no button to test.', '', '')]),
  ]
}
