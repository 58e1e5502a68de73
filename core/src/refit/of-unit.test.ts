import fc from 'fast-check'
import { board, unit } from '../testing/a-unit'
import { gatesFor } from '../unit/gates'
import { conditionsOf, learnedFrom, tickOff } from '../unit/steps'
import type { UnitView } from '../unit/view'
import {
  railFindings,
  railsKnown,
  refitConditions,
  refitContacts,
  refitInstructions,
  refitOf,
  refitReason,
  refitStop,
  refitTick,
  thousandOff,
} from './of-unit'
import type { RefitCheck } from './refit'

const pads = { pads: ['3V3', 'GND', 'TX'] } as const
const good = { rail: 410, '1-2': 410, '2-3': null, 'C-1': 0.3, 'C-2': 0.2, 'C-3': 0.4 }
const rails = [
  { unit: 1, ohms: 395 },
  { unit: 2, ohms: 420 },
  { unit: 3, ohms: 408 },
]
/** A unit of a board with three good rails, whose module came off and went back. */
const refitted = (readings: Record<string, number | null>, more: Partial<UnitView> = {}) =>
  unit(
    { pads: { pads: [...pads.pads] }, close: { refit: { readings, sure: [] } } },
    { route: 'module-off', board: { ...board, pads: null, rails }, ...more },
  )

describe('when it is due', () => {
  test.each([
    ['module-off', 'The module was soldered back.'],
    ['module-replaced', 'The module was soldered back.'],
    ['built', 'The module went into its new place.'],
    ['wires-in-place', null],
  ] as const)('route %s', (route, reason) => expect(refitReason(unit({}, { route }), 'close')).toBe(reason))
  test('leads that were soldered are measured at both ends of their time on the board', () => {
    const view = unit({ wire: { held: 'solder' } })
    expect([refitReason(view, 'wire'), refitReason(view, 'close')]).toEqual([
      'Leads were soldered on.',
      'Leads were soldered off again.',
    ])
    expect(refitReason(unit({ wire: { held: 'jig' } }), 'wire')).toBeNull()
  })
  test('a forced case', () => {
    expect(refitReason(unit({ open: { forced: true } }), 'close')).toBe('The case was opened by force.')
    expect(refitReason(unit({ close: { unharmed: 'no' } }), 'close')).toBe('The case was opened by force.')
  })
  test('then the contacts are behind “unplugged” and “discharged”', () => {
    expect(gatesFor(refitted({}), 'close')).toEqual(['mains-off', 'discharged'])
    expect(gatesFor(unit(), 'close')).toEqual([])
  })
})

test('two rows are two edges: no bridge is looked for between the ends of rows', () => {
  const view = unit({ pads: { pads: ['3V3', 'GND', 'TX', 'RX'], rows: 2 } }, { route: 'module-off', board: null })
  expect(refitContacts(view).map((c) => c.edge)).toEqual(['left', 'left', 'right', 'right'])
  expect(refitOf(view, 'close')?.checks.map((c) => c.id)).toEqual(['rail', '1-2', '3-4', 'C-1', 'C-2', 'C-3', 'C-4'])
})

describe('Close', () => {
  const open = (view: UnitView) =>
    conditionsOf(view, 'close')
      .filter((c) => !c.met)
      .map((c) => c.text)
  test('is not done before every contact is measured, and says how many are left', () =>
    expect(open(refitted({ rail: 410 }))).toContainEqual(
      'The module was soldered back. 5 of 6 contacts are not measured yet.',
    ))
  test('is not done with a bridge, which also forbids power', () => {
    const bridged = refitted({ ...good, '2-3': 12 })
    expect(open(bridged)).toContainEqual('These two are joined and should not be (2 and 3).')
    expect(refitStop(bridged)?.code).toBe('bridge')
  })
  test('lets a good one pass, and what it measured teaches its board', () => {
    expect(refitConditions(refitted(good), 'close')).toEqual([expect.objectContaining({ met: true })])
    expect(refitStop(refitted(good))).toBeNull()
    expect(learnedFrom(refitted(good), 'close')).toEqual([{ key: 'railOhms', value: 410 }])
    expect(learnedFrom(refitted({ ...good, '2-3': 12 }), 'close')).toEqual([])
  })
  test.each([
    ['no pads', []],
    ['pads nobody knows', ['UNKNOWN', 'UNKNOWN', 'UNKNOWN']],
    ['a ground without its rail', ['GND', 'TX', 'RX']],
  ] as const)('with %s nothing can be measured, and that is not called good', (_, pads) => {
    const view = unit(
      { pads: { pads: [...pads] }, close: { refit: { readings: { rail: 410 }, sure: [] } } },
      { route: 'module-off', board: null },
    )
    expect(refitConditions(view, 'close').map((c) => c.met)).toEqual([false])
  })
})

test('nobody is their own evidence: the range rests on the other units', () => {
  const view = refitted(good)
  expect(railsKnown({ ...view, number: 2 })).toEqual([395, 408])
})

test('a rail unlike that of the board is evidence at Identify, of another revision', () => {
  expect(railFindings(refitted({ ...good, rail: 2000 })).map((f) => f.code)).toEqual(['rail-unlike-board'])
  expect(railFindings(refitted(good))).toEqual([])
  // Of a board that nobody has measured often enough, nothing is said.
  expect(railFindings(refitted({ ...good, rail: 2000 }, { board: { ...board, rails: rails.slice(1) } }))).toEqual([])
})

describe('a reading a thousand times off', () => {
  const range: RefitCheck = { id: 'rail', expected: 'range', low: 204, high: 818 }
  const between: RefitCheck = { id: '1-2', a: 1, b: 2, expected: 'open', minOhm: 1000 }
  const joined: RefitCheck = { id: 'C-1', a: 1, expected: 'joined', maxOhm: 5 }
  test('is asked about only where it is wrong as typed and right in the other unit', () => {
    expect(thousandOff(range, 0.41)).toBeCloseTo(410)
    expect(thousandOff(range, 410_000)).toBe(410)
    expect(thousandOff(between, 12)).toBe(12_000)
    expect(thousandOff(joined, 300)).toBe(0.3)
  })
  test('a good one is not asked about, nor one that is wrong either way, nor over range', () => {
    expect(thousandOff(range, 410)).toBeNull()
    expect(thousandOff(range, 50)).toBeNull()
    expect(thousandOff(between, 0.4)).toBeNull()
    expect(thousandOff(joined, null)).toBeNull()
    expect(thousandOff(between, 0)).toBeNull()
  })
  test('what is offered instead is always good', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(range, between, joined),
        fc.double({ min: 0, max: 1e7, noNaN: true }),
        (check, ohms) => {
          const meant = thousandOff(check, ohms)
          if (meant !== null) expect(thousandOff(check, meant)).toBeNull()
        },
      ),
    )
  })
})

describe('readings one by one, for busy hands', () => {
  const told = (view: UnitView) => refitInstructions(view, 'close').map((i) => i.id)
  test('what is not measured, and what is bad, is told in the order of a hand; good ones are not told again', () => {
    expect(told(refitted({}))).toEqual(['refit-rail', 'refit-1-2', 'refit-2-3', 'refit-C-1', 'refit-C-2', 'refit-C-3'])
    expect(told(refitted({ ...good, '2-3': 12 }))).toEqual(['refit-2-3'])
    expect(told(refitted(good))).toEqual([])
    expect(told(unit({}, { route: 'wires-in-place' }))).toEqual([])
  })
  test('a reading is taken down as it is typed, over range too, and taken back', () => {
    const view = refitted({ rail: 410 })
    expect(refitTick(view, 'close', 'refit-2-3', true, '4k7')?.refit.readings).toEqual({ rail: 410, '2-3': 4700 })
    expect(refitTick(view, 'close', 'refit-2-3', true, 'o')?.refit.readings).toEqual({ rail: 410, '2-3': null })
    expect(refitTick(view, 'close', 'refit-rail', false)?.refit.readings).toEqual({})
    expect(tickOff(view, 'close', 'refit-C-1', true, '0,3')).toMatchObject({ refit: { readings: { 'C-1': 0.3 } } })
  })
  test.each(['', 'abc', '-3'])('%p is no reading: nothing is written down', (typed) =>
    expect(refitTick(refitted({}), 'close', 'refit-rail', true, typed)).toBeNull(),
  )
})
