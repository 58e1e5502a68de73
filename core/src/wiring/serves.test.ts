import fc from 'fast-check'
import type { Adapter } from '../unit/view'
import { type JigInput, planJig, straightOf } from './jig'
import { type BoardPadRow, servesMost, sharedJigs } from './serves'
import { type PadRole, padRoles } from './wiring'

const adapter = (name: string, pins: string[]): Adapter => ({
  id: name,
  name,
  pins,
  logicV: 3.3,
  max3v3Ma: 500,
  labelledFrom: 'adapter',
})
const board = (name: string, pads: PadRole[], more: Partial<BoardPadRow> = {}): BoardPadRow => ({
  id: name,
  name,
  pads,
  pitchMm: 2.54,
  rows: 1,
  ...more,
})
/** Straight on to a row GND RX TX 3V3: what it sends meets what the part hears. */
const fits = adapter('fits', ['GND', 'TX', 'RX', '3V3'])
const bends = adapter('bends', ['GND', 'TX', 'RX', '3V3', 'CTS'])
const row: PadRole[] = ['GND', 'RX', 'TX', '3V3']

test('most boards first, then fewest bends, then the name', () => {
  const boards = [board('a', row), board('b', [...row].reverse()), board('c', ['TX', 'GND', 'RX', '3V3'])]
  const [first, second, third] = servesMost([adapter('z', fits.pins), bends, fits], boards)
  expect([first?.adapter.name, first?.boards.map((b) => b.name), first?.bends]).toEqual(['fits', ['a', 'b'], 0])
  expect(second?.adapter.name).toBe('z')
  expect(third).toMatchObject({ adapter: { name: 'bends' }, boards: [{ name: 'a' }, { name: 'b' }] })
})

test('two rows, no pads and another pitch are not plugged straight on to', () => {
  const boards = [board('two', row, { rows: 2 }), board('none', []), board('fine', row, { pitchMm: 2 })]
  expect(servesMost([fits], boards)[0]?.boards).toEqual([])
})

test('boards with one row and one pitch share a jig; a board alone has its own', () => {
  const boards = [board('a', row), board('b', row), board('c', [...row].reverse()), board('d', row, { pitchMm: 2 })]
  expect(sharedJigs(boards).map((g) => g.map((b) => b.name))).toEqual([['a', 'b']])
})

test('another board never makes an adapter serve fewer', () => {
  const rows = fc.array(fc.constantFrom(...padRoles), { minLength: 1, maxLength: 6 })
  fc.assert(
    fc.property(fc.array(rows, { maxLength: 4 }), rows, (some, more) => {
      const boards = some.map((pads, i) => board(`b${i}`, pads))
      const count = (list: BoardPadRow[]) => servesMost([fits], list)[0]?.boards.length ?? 0
      expect(count([...boards, board('more', more)])).toBeGreaterThanOrEqual(count(boards))
    }),
    { numRuns: 60 },
  )
})

test('the straight plug of a known row is the one of the whole plan, and none where the plan is refused', () =>
  fc.assert(
    fc.property(
      fc.record({
        adapter: fc.array(fc.constantFrom('GND', 'TX', 'RX', '3V3', '5V', 'CTS'), { maxLength: 14 }),
        pads: fc.array(fc.constantFrom(...padRoles), { maxLength: 14 }),
        pitchAdapter: fc.constantFrom(2.54, 2),
        pitchPads: fc.constantFrom(2.54, 2.541, 2),
        padsSeenFrom: fc.constantFrom('top', 'bottom'),
        plugFace: fc.constantFrom('top', 'bottom'),
        labelledFrom: fc.constantFrom('adapter', 'target'),
        power: fc.constantFrom('adapter3v3', 'bench'),
      }),
      (plan) => {
        const whole = planJig(plan)
        expect(straightOf(plan as JigInput)).toEqual(whole.ok ? whole.value.straight : null)
      },
    ),
    { numRuns: 600 },
  ))
