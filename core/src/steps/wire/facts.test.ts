import { readEdge } from '../../module/map'
import { unit } from '../../testing/a-unit'
import type { UnitView } from '../../unit/view'
import { dividerOf, jigOf, rowsOf, twoRowsOf } from './facts'
import { instructions, tick } from './instructions'
import { leadsInOrder } from './leads'
import { learned, prefill } from './learn'

const adapter = {
  id: 'a1',
  name: 'Adapter 2',
  pins: ['GND', 'CTS', '5V', 'TX', 'RX', '3V3'],
  logicV: 3.3,
  max3v3Ma: 700,
  labelledFrom: 'adapter' as const,
}
const lx106 = { decision: { family: 'LX106' as const, reason: 'read on the chip itself' } }
type Wire = Partial<UnitView['records']['wire']['data']>
type Pads = Partial<UnitView['records']['pads']['data']>
const wired = (wire: Wire = {}, pads: Pads = {}, more: Partial<UnitView> = {}) =>
  unit(
    {
      identify: lx106,
      pads: { pads: ['3V3', 'RX', 'TX', 'GND'], pitchMm: 2.54, bootBy: 'button', ...pads },
      wire: { entry: 'button', ...wire },
    },
    { adapter, board: null, ...more },
  )
const twoRows: Pads = { pads: ['GND', 'RX', 'TX', '3V3', 'RST', 'BOOT'], rows: 2, rowGap: 4 }

describe('plug or jig', () => {
  test('is planned for one row, and not where there is none to plan for', () => {
    expect(jigOf(wired())).not.toBeNull()
    expect(jigOf(wired({}, {}, { adapter: null }))).toBeNull()
    expect(jigOf(wired({ power: 'adapter5v' }))).toBeNull()
    expect(jigOf(wired({}, { pads: ['TX', 'RX', 'UNKNOWN'] }))).toBeNull()
    expect(jigOf(wired({}, twoRows))).toBeNull()
  })
  test('a supply from elsewhere needs no wire of the adapter', () => {
    const pads = { pads: ['RX' as const, 'TX' as const, 'GND' as const] }
    expect(jigOf(wired({ power: 'adapter3v3' }, pads))).toBeNull()
    for (const power of ['bench', 'regulator'] as const) expect(jigOf(wired({ power }, pads))).not.toBeNull()
  })
})

describe('two rows', () => {
  test('are the upper and the lower half, both as long as the longer, and turned like a page from below', () => {
    expect(rowsOf(wired({}, { ...twoRows, pads: ['GND', 'RX', 'TX', '3V3', 'RST'] }))).toEqual([
      ['GND', 'RX', 'TX'],
      ['3V3', 'RST', 'UNKNOWN'],
    ])
    expect(rowsOf(wired({ plugFace: 'bottom' }, twoRows))).toEqual([
      ['TX', 'RX', 'GND'],
      ['BOOT', 'RST', '3V3'],
    ])
    expect(rowsOf(wired())).toBeNull()
  })
  test('of a module they are its edges, the right one on top', () => {
    const module = {
      id: 'm',
      name: 'M',
      family: 'LX106' as const,
      pitchMm: 2,
      edges: [
        { side: 'left' as const, contacts: readEdge('3V3, EN', 1) },
        { side: 'right' as const, contacts: readEdge('GND, TX, RX', 3) },
      ],
    }
    expect(rowsOf(wired({}, { moduleId: 'm' }, { module }))).toEqual([
      ['GND', 'TX', 'RX'],
      ['3V3', 'RST', 'UNKNOWN'],
    ])
    // Its contacts are no row: nothing of one row is planned for it.
    expect(jigOf(wired({}, { moduleId: 'm' }, { module }))).toBeNull()
  })
  test('are planned once somebody measured between them, and what is needed is there', () => {
    expect(twoRowsOf(wired({}, twoRows))?.plan.gap).toBe(4)
    expect(twoRowsOf(wired({}, { ...twoRows, rowGap: null }))).toBeNull()
    expect(twoRowsOf(wired({ power: 'adapter5v' }, twoRows))).toBeNull()
    expect(twoRowsOf(wired({}, { ...twoRows, pads: ['GND', 'RX', 'TX', 'RST'] }))).toBeNull()
    expect(twoRowsOf(wired({ power: 'bench' }, { ...twoRows, pads: ['GND', 'RX', 'TX', 'RST'] }))).not.toBeNull()
  })
})

test('a divider is judged at the rate that was chosen for writing, and only where one is fitted', () => {
  expect(dividerOf(wired())).toBeNull()
  const five = { ...adapter, logicV: 5 }
  const fitted = wired({ divider: { rTop: 18_000, rBottom: 33_000 } }, {}, { adapter: five })
  fitted.records.check.data.baud = 921_600
  expect(dividerOf(fitted)?.verdict).toBe('too_slow')
  fitted.records.check.data.baud = 9600
  expect(dividerOf(fitted)?.verdict).toBe('ok')
})

describe('busy hands', () => {
  test('are told the leads ground first and supply last, the adapter out of the computer before all', () => {
    expect(leadsInOrder(wired()).map((c) => c.pad)).toEqual(['GND', 'TX', 'RX', '3V3'])
    const view = wired({}, {}, { gates: [] })
    const told = instructions(view).map((i) => i.id)
    expect(told.slice(0, 5)).toEqual(['adapter-out', 'lead-GND', 'lead-TX', 'lead-RX', 'lead-3V3'])
    expect(instructions(wired({ joined: ['GND', 'TX'] })).map((i) => i.id)).not.toContain('lead-GND')
  })
  test('tick a lead and take it off again; what is no lead changes nothing', () => {
    expect(tick?.(wired(), 'lead-TX', true)).toMatchObject({ joined: ['TX'] })
    expect(tick?.(wired({ joined: ['GND', 'TX'] }), 'lead-TX', false)).toMatchObject({ joined: ['GND'] })
    expect(tick?.(wired(), 'adapter-out', true)).toBeNull()
  })
})

test('a board learns the way in and the adapter; an adapter that is not in the kit is none', () => {
  expect(learned?.(wired())).toEqual({ entry: 'button', adapterId: 'a1', railOhms: null })
  expect(learned?.(wired({ adapterId: 'gone' }, {}, { adapter: null }))).toMatchObject({ adapterId: null })
  expect(prefill?.(null, { hubId: null, instrumentId: null, adapterId: 'only' })).toEqual({
    entry: null,
    adapterId: 'only',
  })
})
