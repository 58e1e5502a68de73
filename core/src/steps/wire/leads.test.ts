import { type Records, unit } from '../../testing/a-unit'
import type { StepData } from '../../unit/records'
import { conditionsOf, lastingConditions } from '../../unit/steps'
import type { UnitView } from '../../unit/view'
import type { PadRole } from '../../wiring/wiring'
import { instructions } from './instructions'
import { isMoved, leadConditions, leadsInOrder, leadsOn, nextLead, withAllLeads, withLead } from './leads'

const adapter = {
  id: 'a1',
  name: 'Little bridge',
  pins: ['GND', 'CTS', '3V3', 'TX', 'RX', 'DTR'],
  logicV: 3.3,
  max3v3Ma: 500,
  labelledFrom: 'adapter' as const,
}
const row: PadRole[] = ['3V3', 'RX', 'TX', 'GND']
const wired = (wire: Partial<StepData['wire']> = {}, pads: PadRole[] = row, more: Partial<UnitView> = {}): UnitView =>
  unit(
    {
      identify: { decision: { family: 'LX106', reason: 'read' } },
      pads: { pads, bootBy: 'button' },
      wire: { adapterId: 'a1', entry: 'button', ...wire },
    } as Records,
    { adapter: adapter as never, ...more },
  )
/** All leads put on, one after the other, as the card asks. */
function allOn(view: UnitView): Partial<StepData['wire']> {
  const seen: PadRole[] = []
  for (let next = nextLead(view); next; next = nextLead(view)) {
    seen.push(next.pad)
    Object.assign(view.records.wire.data, withLead(view, next.pad, true))
  }
  expect(seen).toEqual(leadsInOrder(view).map((c) => c.pad))
  const { joined, leadsAt } = view.records.wire.data
  return { joined, leadsAt }
}

describe('leads that are on', () => {
  test('each is asked for once, ground first, until none is left', () => {
    const view = wired(allOn(wired()))
    expect(nextLead(view)).toBeNull()
    expect(leadsOn(view)).toEqual(['GND', 'TX', 'RX', '3V3'])
    expect(instructions(view).some((i) => i.id.startsWith('lead-'))).toBe(false)
  })
  test('one that is taken off is asked for again, the others are not', () => {
    const on = allOn(wired())
    const view = wired({ ...on, ...withLead(wired(on), 'RX', false) })
    expect(nextLead(view)?.pad).toBe('RX')
    expect(leadsOn(view)).toEqual(['GND', 'TX', '3V3'])
  })
  test('at a row that turned out otherwise, what changed places is on no more: 3V3 on GND destroys the part', () => {
    const view = wired(allOn(wired()), ['GND', 'RX', 'TX', '3V3'])
    expect(leadsOn(view)).toEqual(['TX', 'RX'])
    expect(nextLead(view)?.pad).toBe('GND')
    expect(
      leadsInOrder(view)
        .filter((c) => isMoved(view, c))
        .map((c) => c.pad),
    ).toEqual(['GND', '3V3'])
    expect(instructions(view).find((i) => i.id === 'lead-GND')?.look).toMatch(/on elsewhere/)
  })
  test('of another adapter none is on, and with the first one back all are', () => {
    const on = allOn(wired())
    expect(leadsOn(wired(on, row, { adapter: { ...adapter, id: 'a2' } as never }))).toEqual([])
    expect(leadsOn(wired(on))).toHaveLength(4)
  })
  test('an older record, which does not say where they go, counts as it did', () => {
    expect(leadsOn(wired({ joined: ['GND', 'TX'] }))).toEqual(['GND', 'TX'])
  })
  test('a lead that is in no plan is kept as it was said, and none is on while there is no plan', () => {
    const none = wired({}, row, { adapter: null })
    expect(withLead(none, 'TX', true)).toEqual({ joined: ['TX'], leadsAt: {} })
    expect(leadsOn(wired(withLead(none, 'TX', true), row, { adapter: null }))).toEqual([])
  })
  test('said at once they are what they are said one after the other', () => {
    const one = allOn(wired())
    const all = withAllLeads(wired())
    expect(new Set(all.joined)).toEqual(new Set(one.joined))
    expect(all.leadsAt).toEqual(one.leadsAt)
    // A lead that is in no plan now stays as it was said.
    expect(withAllLeads(wired({ joined: ['BOOT'] })).joined).toContain('BOOT')
  })
})

describe('before the step is done', () => {
  const asked = (view: UnitView) => leadConditions(view).map((c) => [c.met, c.text])
  test('every lead is on; what is not is counted', () => {
    expect(asked(wired())).toEqual([[false, '0 of 4 leads are on.']])
    expect(asked(wired(withLead(wired(), 'GND', true)))).toEqual([[false, '1 of 4 leads are on.']])
    expect(asked(wired(withAllLeads(wired())))).toEqual([[true, 'All 4 leads are on.']])
  })
  test('what went elsewhere before is named: another row makes the way to power wait', () => {
    const view = wired(withAllLeads(wired()), ['GND', 'RX', 'TX', '3V3'])
    expect(asked(view)).toEqual([[false, 'Before the adapter or the row changed, GND, 3V3 went elsewhere.']])
    expect(conditionsOf(view, 'wire').some((c) => !c.met && /went elsewhere/.test(c.text))).toBe(true)
  })
  test('it is asked once: taken off afterwards, as for closing, no lead makes the step stale', () => {
    const off = wired({ ...withAllLeads(wired()), joined: [] })
    expect(lastingConditions(off, 'wire').some((c) => /leads are on|elsewhere/.test(c.text))).toBe(false)
    expect(asked(wired({}, row, { adapter: null }))).toEqual([])
  })
})
