import fc from 'fast-check'
import { planTwoRows, type TwoRowsInput, type TwoRowsPlan } from './two-rows'
import { type PadRole, padRoles } from './wiring'

const adapter = { pins: ['GND', 'CTS', '5V', 'TX', 'RX', '3V3'], labelledFrom: 'adapter' as const }
const needed: PadRole[] = ['GND', 'TX', 'RX', '3V3']
const blank = (n: number): PadRole[] => Array(n).fill('UNKNOWN')
const of = (more: Partial<TwoRowsInput>): TwoRowsPlan => {
  const out = planTwoRows({ adapter, gap: 6, needed, rows: [blank(4), blank(4)], ...more })
  if (!out.ok) throw new Error(JSON.stringify(out.faults))
  return out.value
}

test('where all that is needed lies in one row in the adapter’s order, every wire is bare', () => {
  const plan = of({ rows: [['GND', 'RX', 'TX', '3V3'], blank(4)] })
  expect(plan).toMatchObject({ near: 0, adapterReversed: false, topWires: 0, crossings: 0, cols: 6, rows: 9 })
  expect(plan.wires.map((w) => w.role)).toEqual(['GND', 'RX', 'TX', '3V3'])
})

test('the socket goes to the row that has more of it, turned round where that saves wires', () => {
  const plan = of({ rows: [blank(4), ['3V3', 'TX', 'RX', 'GND']] })
  expect(plan).toMatchObject({ near: 1, adapterReversed: true, topWires: 0 })
})

test('what lies in the far row runs insulated, between the pins of the near one', () => {
  const plan = of({
    rows: [
      ['GND', 'UNKNOWN', 'RX', 'TX'],
      ['UNKNOWN', 'UNKNOWN', '3V3', 'UNKNOWN'],
    ],
  })
  expect(plan).toMatchObject({ near: 0, topWires: 1 })
  expect(plan.wires.filter((w) => w.layer === 'top')).toEqual([
    { role: '3V3', adapter: 5, row: 1, column: 2, layer: 'top' },
  ])
})

test('TX goes to RX, but straight across where the adapter is labelled from the target’s side', () => {
  const rows = [['GND', 'RX', 'TX', '3V3'] as PadRole[], blank(4)] as const
  const rx = (plan: TwoRowsPlan) => adapter.pins[plan.wires.find((w) => w.role === 'RX')?.adapter ?? -1]
  expect(rx(of({ rows }))).toBe('TX')
  expect(rx(of({ rows, adapter: { ...adapter, labelledFrom: 'target' } }))).toBe('RX')
})

test.each<[string, Partial<TwoRowsInput>, string, string]>([
  ['no gap', { gap: 0 }, 'range', '/gap'],
  ['half a step', { gap: 2.5 }, 'range', '/gap'],
  ['a role that is nowhere', { rows: [['GND', 'TX', 'RX'], blank(3)] }, 'missing-role', '/rows'],
  [
    'an adapter without a supply',
    { rows: [needed, blank(4)], adapter: { ...adapter, pins: ['GND', 'TX', 'RX'] } },
    'missing-pin',
    '/adapter',
  ],
])('%s is refused', (_, more, code, path) =>
  expect(planTwoRows({ adapter, gap: 6, needed, rows: [blank(4), blank(4)], ...more })).toMatchObject({
    ok: false,
    faults: [{ code, path }],
  }),
)

const row = fc.array(fc.constantFrom(...padRoles), { minLength: 1, maxLength: 10 })
test('every needed role gets one wire from its pin to a pad of that role, and none of the bare ones cross', () =>
  fc.assert(
    fc.property(row, row, fc.integer({ min: 1, max: 12 }), (a, b, gap) => {
      const rows = [[...a, ...needed], b] as const
      const plan = of({ rows, gap })
      expect(plan.wires.map((w) => w.role).sort()).toEqual([...needed].sort())
      expect(new Set(plan.wires.map((w) => w.adapter)).size).toBe(needed.length)
      for (const w of plan.wires) expect(rows[w.row][w.column]).toBe(w.role)
      const at = (i: number) => (plan.adapterReversed ? adapter.pins.length - 1 - i : i)
      const bare = plan.wires.filter((w) => w.layer === 'bottom')
      for (const x of bare) {
        expect(x.row).toBe(plan.near)
        for (const y of bare) expect((at(x.adapter) - at(y.adapter)) * (x.column - y.column)).toBeGreaterThanOrEqual(0)
      }
    }),
  ))
