import { type KitModule, readEdge } from '../../module/map'
import { refitContacts } from '../../refit/of-unit'
import { unit } from '../../testing/a-unit'
import { conditionsOf } from '../../unit/steps'
import { padStateOfReadings } from './facts'
import { instructions } from './instructions'
import { hasTwoRows, moduleFindings, neededRoles, padCalled, rowSettled, withModule, withoutModule } from './row'

const w8: KitModule = {
  id: 'm1',
  name: 'Quoinsby W8 module',
  family: 'LX106',
  pitchMm: 2,
  edges: [
    { side: 'left', contacts: readEdge('RST, NC, EN, 3V3', 1) },
    { side: 'right', contacts: readEdge('TX, RX, BOOT GPIO0, GPIO15, GND', 5) },
  ],
}
const lx106 = { decision: { family: 'LX106' as const, reason: 'read on the chip itself' } }
const arm = { decision: { family: 'ARM968-B' as const, reason: 'read on the chip itself' } }
const named = (readings: object[] = [], identify: object = lx106) => {
  const filled = row.pads.map((_, i) => readings[i] ?? {})
  return unit({ identify, pads: { ...row, readings: filled } as never }, { module: w8, board: null })
}
const row = withModule(w8)

test('naming a module takes its contacts as the row: roles, numbers, pitch, and how BOOT is reached', () => {
  expect(row).toMatchObject({
    moduleId: 'm1',
    pads: ['RST', '3V3', 'TX', 'RX', 'BOOT', 'GND'],
    contacts: [1, 4, 5, 6, 7, 9],
    rows: 1,
    pitchMm: 2,
    bootBy: 'pad',
  })
})

test('without its module nobody knows the row any more, and what was measured stays', () => {
  const readings = [{ cont_gnd: true }, {}]
  const data = { pads: ['GND' as const, 'TX' as const], readings, moduleId: 'm1', contacts: [9, 5] }
  expect({ ...data, ...withoutModule(data) }).toEqual({
    moduleId: null,
    contacts: [],
    pads: ['UNKNOWN', 'UNKNOWN'],
    readings,
  })
})

describe('a map that was corrected', () => {
  const corrected: KitModule = {
    ...w8,
    edges: [
      { side: 'left', contacts: readEdge('RST, NC, EN, NC', 1) },
      { side: 'right', contacts: readEdge('RX, TX, BOOT GPIO0, GPIO15, GND', 5) },
    ],
  }
  const told = (view: ReturnType<typeof named>) => moduleFindings(view).map((f) => f.message)
  test('is said wherever the row differs from it, and says nothing where it does not', () => {
    expect(told(named())).toEqual([])
    expect(told({ ...named(), module: corrected })).toEqual([
      'The map says no lead at contact 4; this row has 3V3.',
      'The map says RX at contact 5; this row has TX.',
      'The map says TX at contact 6; this row has RX.',
    ])
  })
  test('taken anew keeps what was measured at each contact, and another module’s readings are none of its own', () => {
    const readings = row.contacts.map((n) => ({ label: `c${n}` }))
    const again = withModule(corrected, { ...row, readings })
    expect(again.contacts).toEqual([1, 5, 6, 7, 9])
    expect(again.readings).toEqual([1, 5, 6, 7, 9].map((n) => ({ label: `c${n}` })))
    expect(told(unit({ identify: lx106, pads: again as never }, { module: corrected, board: null }))).toEqual([])
    const other = withModule({ ...corrected, id: 'm2' }, { ...row, readings })
    expect(other.readings).toEqual([{}, {}, {}, {}, {}])
  })
  test('what a map leaves open may be found out', () => {
    const open: KitModule = { ...w8, edges: [{ side: 'left', contacts: readEdge('?, GND', 1) }] }
    const taken = { ...withModule(open), pads: ['TX', 'GND'] }
    expect(told(unit({ identify: lx106, pads: taken as never }, { module: open, board: null }))).toEqual([])
  })
})

test('a map proves no supply: GND and 3V3 are measured all the same', () => {
  const open = (view: ReturnType<typeof named>) =>
    conditionsOf(view, 'pads')
      .filter((c) => !c.met && !c.text.startsWith('Not confirmed'))
      .map((c) => c.text)
  expect(open(named())).toEqual(['GND and 3V3 are not proven by a meter yet.'])
  const measured: object[] = []
  measured[1] = { ohms_3v3: 0.3, cont_gnd: false }
  measured[5] = { cont_gnd: true, ohms_3v3: 9000 }
  expect(open(named(measured))).toEqual([])
})

test('where the meter finds something else than the map, it is said, and the step is not done', () => {
  const readings: object[] = []
  readings[1] = { cont_gnd: true, ohms_3v3: 8000 }
  readings[5] = { ohms_3v3: 0.4, cont_gnd: false }
  const view = named(readings)
  expect(moduleFindings(view).map((f) => [f.code, f.message])).toEqual([
    ['map-contradicted', 'The map says 3V3 at contact 4; the meter says no.'],
    ['map-contradicted', 'The map says GND at contact 9; the meter says no.'],
  ])
  expect(conditionsOf(view, 'pads').some((c) => !c.met && c.text.startsWith('The map says'))).toBe(true)
})

test('a module of another family, and one that left the kit', () => {
  expect(moduleFindings(named([], arm)).map((f) => f.code)).toEqual(['module-family'])
  expect(moduleFindings({ ...named([], arm), module: { ...w8, family: 'ARM968-A' } })).toEqual([])
  expect(moduleFindings({ ...named(), module: null }).map((f) => f.code)).toEqual(['module-gone'])
  expect(moduleFindings(unit())).toEqual([])
})

test('contacts are called by their numbers, and the meter meets all of them before power', () => {
  expect([padCalled([9], 0), padCalled([], 2), padCalled(undefined, 0)]).toEqual(['contact 9', 'pad 3', 'pad 1'])
  const first: object[] = [{ cont_gnd: false }]
  expect(instructions(named(first))[0]?.say).toMatch(/^Contact \d/)
  expect(refitContacts(named()).map((c) => c.n)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9])
  expect(hasTwoRows(named())).toBe(true)
  expect(hasTwoRows(unit({ pads: { rows: 2 } }))).toBe(true)
})

describe('what the way in needs', () => {
  const byPad = { bootBy: 'pad' as const }
  test('BOOT only where the family has a strap that a pad reaches', () => {
    expect(neededRoles(unit({ identify: lx106, pads: byPad }))).toContain('BOOT')
    expect(neededRoles(unit({ identify: arm, pads: byPad }))).not.toContain('BOOT')
    expect(neededRoles(unit({ identify: lx106, pads: { bootBy: 'button' } }))).not.toContain('BOOT')
  })
  test('a pad that may be reset or nothing is no reason to go on; one that the way in needs is', () => {
    const { solution } = padStateOfReadings(
      [
        { ohms_3v3: 0.3, cont_gnd: false, volts: 3.3, label: '3V3' },
        { cont_gnd: true, label: 'GND', volts: 0 },
        { volts: 3.27, volts_10k: 3.24, dip: true, text: true, label: 'TX' },
        { volts: 3.12, volts_10k: 0.58, dip: false, label: 'RX', text: false },
        { ohms_3v3: 10_000 },
      ],
      false,
    )
    if (!solution) throw new Error('no solution')
    expect(solution.verdict).toBe('measure_more')
    expect(rowSettled(solution, ['GND', '3V3', 'TX', 'RX'])).toBe(true)
    expect(rowSettled(solution, ['GND', '3V3', 'TX', 'RX', 'BOOT'])).toBe(false)
  })
})
