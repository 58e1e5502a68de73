import { familyOf } from '../steps/identify/facts'
import { board, lx106, unit, unmet } from '../testing/a-unit'
import { fromOthers, looksOf } from './own-look'
import type { UnitFile, UnitView } from './view'

const known = {
  ...board,
  family: 'LX106' as const,
  markings: { LX106: 9 },
  pads: { pads: ['GND', 'TX', 'RX', '3V3'] as never, pitchMm: 2.54, bootBy: 'button' as const, regulator5v: false },
  unitNumbers: [5, 6, 7],
  unitCount: 3,
}
const taught = { identify: { evidence: [{ kind: 'marking', counts: { LX106: 9 } }] } }
const photo: UnitFile = {
  id: 'p',
  kind: 'photo',
  name: 'board.png',
  sha256: 'p',
  bytes: 9,
  read: null,
  tag: 'board_top',
  createdAt: '2026-11-24T08:00:00Z',
  inspection: null,
}
const at = (records: Parameters<typeof unit>[0], more: Partial<UnitView> = {}) =>
  unit(records, { board: known, ...more })

describe('what a board taught', () => {
  test('is inherited, and called so, until somebody looks', () => {
    expect(familyOf(at(taught))).toEqual({ family: 'LX106', verdict: 'likely', how: 'board' })
    expect(fromOthers(at({}))).toBe('from units 05 and 06')
    expect(unmet(at(taught), 'identify')).toContain('Known from units 05 and 06; nobody has looked at this unit yet.')
  })
  test('becomes the unit’s own by one check of its own', () => {
    const view = at({ identify: { evidence: [...taught.identify.evidence, ...lx106.evidence] } })
    expect(familyOf(view)).toMatchObject({ family: 'LX106', how: 'evidence' })
    expect(unmet(view, 'identify')).toEqual([])
  })
  test.each<[string, Parameters<typeof unit>[0], Partial<UnitView>]>([
    ['a photo', taught, { files: [photo] }],
    ['what is printed on it', { identify: { ...taught.identify, printed: 'LY-11' } }, {}],
  ])('%s is enough where the board is well known', (_, records, more) => {
    expect(looksOf(at(records, more)).identify).toBe(true)
    expect(unmet(at(records, more), 'identify')).toEqual([])
  })
  test('pads are wired by it, and not done without one look', () => {
    expect(unmet(at({ identify: lx106 }, { board: { ...known, mains: false } }), 'pads')).toEqual([
      'Known from units 05 and 06; nobody has looked at this unit’s pads yet.',
    ])
    expect(
      unmet(
        at({ identify: lx106, pads: { readings: [{ cont_gnd: true }] } }, { board: { ...known, mains: false } }),
        'pads',
      ),
    ).toEqual([])
  })
  test('pins seen on other units alone are not this unit’s', () => {
    const pin = (by: string) => ({
      pins: {
        power: 'adapter' as const,
        template: {
          format: 'fresh-coat/pin-template',
          version: 1,
          board: 'P1',
          family: 'LX106',
          pins: [
            {
              pin: 'GPIO12',
              fn: 'relay',
              ch: 1,
              evidence: [1, 2].map((s) => ({ unit: by, sitting: `s${s}`, agrees: true })),
            },
          ],
        } as never,
      },
    })
    const taught = { board: { ...known, template: pin('5').pins.template } }
    expect([looksOf(at(pin('5'))).pins, looksOf(at(pin('7'))).pins]).toEqual([false, true])
    expect(unmet(at(pin('5'), taught), 'pins').at(-1)).toMatch(/nobody has seen a pin of this unit/)
  })
})

test.each([
  [[7], 1, 'from the record of its board'],
  [[5, 7], 2, 'from unit 05'],
  [[1, 2, 3, 7], 4, 'from units 01, 02 and 03'],
  [[1, 2, 3, 4, 7], 5, 'from units 01, 02, 03 and others'],
])('of units %j it says where from', (unitNumbers, unitCount, words) =>
  expect(fromOthers(at({}, { board: { ...known, unitNumbers, unitCount } }))).toBe(words),
)
