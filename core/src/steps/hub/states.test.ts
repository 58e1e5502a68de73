import type { PinTemplate } from '../../pins/template'
import { type Records, unit } from '../../testing/a-unit'
import { factsOfUnit } from '../../unit/facts'
import { conditionsOf } from '../../unit/steps'
import { type HubTest, hubSayings, testDirections, type UnitView } from '../../unit/view'
import { type HubState, hubStates, hubWay, testedChannels, testStands } from './states'

const template = (...channels: number[]): PinTemplate =>
  ({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'P1',
    family: 'LX106',
    pins: [
      ...channels.map((ch, i) => ({ pin: `GPIO${12 + i}`, fn: 'relay', ch })),
      { pin: 'GPIO0', fn: 'button', ch: channels[0] },
    ],
  }) as PinTemplate
const records: Records = { hub: { hubId: 'h1' }, join: { address: '192.168.71.9' }, pins: { template: template(1) } }

let id = 0
const seen = (view: UnitView, direction: HubTest['direction'], more: Partial<HubTest> = {}): HubTest => ({
  id: `t${++id}`,
  at: '2026-11-24T11:00:00Z',
  by: 'x',
  hub: 'Mantel',
  direction,
  channel: null,
  ok: true,
  seen: 'yes',
  basis: factsOfUnit(view),
  ...more,
})
const kinds = [...hubSayings.slice(0, 3), ...testDirections, 'automations' as const]
/** A unit of which everything was seen, and after that changed. */
function whole(change: (view: UnitView) => Partial<UnitView> = () => ({}), more: Records = {}): UnitView {
  const view = unit({
    ...records,
    prove: { powerCut: { seconds: 12, cameBack: 'as wanted', rejoinSeconds: 8 } },
    ...more,
  })
  view.records.prove.done = { at: '2026-11-25T10:00:00Z', by: 'x', how: 'done', basis: factsOfUnit(view) }
  view.hubTests = kinds.map((k) => seen(view, k))
  return { ...view, ...change(view) }
}
const standings = (view: UnitView) => hubWay(view).steps.map((s) => s.standing)
const reached = (view: UnitView) => hubWay(view).reached

describe('how far a unit is with its hub', () => {
  test('nothing is reached before anybody saw anything', () => {
    const view = unit(records)
    expect(reached(view)).toBeNull()
    expect(standings(view)).toEqual(hubStates.map(() => 'none'))
  })
  test('each state needs its own evidence, and all before it', () => {
    const view = unit(records)
    const ladder: [HubTest['direction'], HubState | null][] = [
      ['shown by the hub', null],
      ['details in the unit', 'discovered'],
      ['hub to unit', 'discovered'],
      ['named and placed', 'named-placed'],
      ['button to hub', 'tested-both-ways'],
      ['automations', 'automations'],
    ]
    for (const [kind, state] of ladder) {
      view.hubTests = [seen(view, kind), ...view.hubTests]
      expect(reached(view)).toBe(state)
    }
    expect(reached(whole())).toBe('verified-after-power-cut')
  })
  test.each<[string, (v: UnitView) => Partial<UnitView>, HubState | null, number]>([
    [
      'another password',
      (v) => ({
        records: { ...v.records, join: { ...v.records.join, data: { ...v.records.join.data, brokerSecret: 's2' } } },
      }),
      null,
      0,
    ],
    ['another topic', () => ({ topic: 'yard/lantern/new' }), 'credentials-set', 1],
    ['another name', () => ({ name: 'Paste pot' }), 'discovered', 2],
    ['another place', () => ({ place: 'attic' }), 'discovered', 2],
    [
      'another pin',
      (v) => ({
        records: { ...v.records, pins: { ...v.records.pins, data: { ...v.records.pins.data, template: template(2) } } },
      }),
      'named-placed',
      3,
    ],
  ])(
    '%s sends it back to where that was rested on, and what comes after is kept, and stale',
    (_, change, state, from) => {
      const view = whole(change)
      expect(reached(view)).toBe(state)
      const after = standings(view).slice(from)
      expect(new Set(after)).toEqual(new Set(['stale']))
      expect(hubWay(view).steps.every((s) => s.seen !== '')).toBe(true)
    },
  )
  test('a new address sends back only a unit whose hub talks by address; the tests rest on it anyway', () => {
    const move = (v: UnitView): Partial<UnitView> => ({
      records: {
        ...v.records,
        join: { ...v.records.join, data: { ...v.records.join.data, address: '192.168.71.10' } },
      },
    })
    expect(reached(whole(move))).toBe('named-placed')
    expect(
      reached(whole((v) => ({ ...move(v), route: 'local-control' }), { arrive: { route: 'local-control' } })),
    ).toBe('credentials-set')
  })
  test('the newest word counts: a failure after a success, and the other way round', () => {
    const failed = whole((v) => ({ hubTests: [seen(v, 'shown by the hub', { ok: false }), ...v.hubTests] }))
    expect([reached(failed), hubWay(failed).steps[1]?.standing]).toEqual(['credentials-set', 'failed'])
    expect(reached({ ...failed, hubTests: [seen(failed, 'shown by the hub'), ...failed.hubTests] })).toBe(
      'verified-after-power-cut',
    )
  })
  test('a power cut that nobody took for a proof, or that went otherwise, proves nothing', () => {
    const open = whole()
    open.records.prove.done = null
    expect(reached(open)).toBe('automations')
    const other = whole(() => ({}), {
      prove: { powerCut: { seconds: 12, cameBack: 'otherwise', rejoinSeconds: null } },
    })
    expect(hubWay(other).steps.at(-1)?.standing).toBe('failed')
  })
})

describe('channels', () => {
  test('are tried one by one where there are several; a test that names none was of all there were', () => {
    const two: Records = { ...records, pins: { template: template(1, 2) } }
    const view = unit(two)
    expect(testedChannels(view)).toEqual([1, 2])
    expect(testedChannels(unit(records))).toEqual([null])
    view.hubTests = kinds.slice(0, 3).map((k) => seen(view, k))
    const add = (direction: HubTest['direction'], channel: number | null) => {
      view.hubTests = [seen(view, direction, { channel }), ...view.hubTests]
    }
    add('hub to unit', 1)
    add('button to hub', null)
    expect(reached(view)).toBe('named-placed')
    expect(
      conditionsOf(view, 'hub')
        .filter((c) => !c.met)
        .map((c) => c.text),
    ).toContain('Not tested: hub to unit on channel 2.')
    add('hub to unit', 2)
    expect(reached(view)).toBe('tested-both-ways')
  })
  test('a unit without anything to press is tried one way', () => {
    const view = unit({ ...records, hub: { hubId: 'h1', noButton: true } })
    view.hubTests = [...kinds.slice(0, 3), 'hub to unit' as const].map((k) => seen(view, k))
    expect(reached(view)).toBe('tested-both-ways')
  })
})

test('what was done before the hub was asked so closely stays done', () => {
  const view = unit(records)
  view.hubTests = testDirections.map((k) => seen(view, k))
  const open = conditionsOf(view, 'hub').filter((c) => !c.met)
  expect(open).toHaveLength(4)
  view.hubTests = kinds.map((k) => seen(view, k))
  expect(conditionsOf(view, 'hub').every((c) => c.met)).toBe(true)
})

test('voice and plain requests are links of their own: they carry no state of the hub, and fall by what they rest on', () => {
  const view = whole()
  const voice = seen(view, 'by voice')
  const request = seen(view, 'by a plain request', { ok: false })
  const more = { ...view, hubTests: [request, voice, ...view.hubTests] }
  expect(reached(more)).toBe('verified-after-power-cut')
  expect(conditionsOf(more, 'hub').every((c) => c.met)).toBe(true)
  const now = factsOfUnit(more)
  expect([testStands(more, voice, now), testStands(more, request, now)]).toEqual([true, false])
  expect(testStands(more, voice, factsOfUnit({ ...more, name: 'Paste pot' }))).toBe(false)
})
