import { type Condition, must } from '../../unit/condition'
import { factsOfUnit } from '../../unit/facts'
import type { HubTest, UnitView } from '../../unit/view'
import { hasInput } from './facts'
import { type HubState, hubWay, testedChannels, testOf, testStands } from './states'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const now = factsOfUnit(view)
  const test = (direction: HubTest['direction'], seen: string) =>
    testedChannels(view).map((channel) => {
      const newest = testOf(view, direction, channel)
      const on = channel === null ? '' : ` on channel ${channel}`
      return must(
        newest !== undefined && testStands(view, newest, now),
        `${seen}${on}.`,
        !newest
          ? `Not tested: ${direction}${on}.`
          : newest.ok
            ? `The test ${direction}${on} is stale.`
            : `The test ${direction}${on} failed.`,
        'Test it and say what you saw.',
      )
    })
  return [
    must(view.records.hub.data.hubId !== null, 'A hub is chosen.', 'No hub is chosen.', 'Choose the hub.'),
    ...test('hub to unit', 'Hub → unit seen at the load'),
    ...(hasInput(view)
      ? test('button to hub', 'Button → hub seen')
      : [must(true, 'It has no button to test.', '', '')]),
  ]
}

const sayings: [HubState, string, string, string][] = [
  [
    'credentials-set',
    'The hub’s details are in the unit.',
    'Nobody has said that the hub’s details are in it.',
    'Put them in, and say how you know.',
  ],
  [
    'discovered',
    'The hub shows it.',
    'Nobody has said that the hub shows it.',
    'Look at the hub: by its MAC or topic, not by a name it came with.',
  ],
  [
    'named-placed',
    'Named and placed in the hub.',
    'Nobody has said that it is named and placed in the hub.',
    'Give it its name, room and number there.',
  ],
  [
    'automations',
    'Every automation that uses it was fired once.',
    'Nobody has said which automations use it.',
    'Fire each once, or say that none does.',
  ],
]

/** Asked of units that come to this step now; what was done before it was asked stays done. */
export const asked = (view: UnitView): Condition[] => {
  const { steps } = hubWay(view)
  return sayings.map(([state, yes, no, next]) => {
    const step = steps.find((s) => s.state === state)
    return must(step?.own === 'stands', yes, step?.own === 'failed' ? `${no} Last time it was not so.` : no, next)
  })
}
