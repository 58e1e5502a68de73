import fc from 'fast-check'
import { computed } from '../testing/like'
import { ledResistor } from './led-resistor'
import { compareRoutes } from './route-compare'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}

describe('a resistor in front of an LED', () => {
  const request = { supplyV: 3.3, vf: 2, mA: 4, eSeries: 'E12', choose: 'up', tolPct: 5, pinLimitMA: 12 }
  test('the worked example', () => {
    const r = computed(ledResistor(request))
    expect(r).toMatchObject({ ohm: 330, ratingW: 0.125, warnings: [] })
    expect([r.exactOhm, r.mA, r.mAmin, r.mAmax].map((x) => x.toFixed(4))).toEqual([
      '325.0000',
      '3.9394',
      '3.7518',
      '4.1467',
    ])
  })
  test('nearest may be below, up never is', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 30, noNaN: true }),
        fc.constantFrom('E6', 'E12', 'E24', 'E48', 'E96'),
        (mA, eSeries) => {
          const up = computed(ledResistor({ ...request, mA, eSeries }))
          expect(up.ohm).toBeGreaterThanOrEqual(up.exactOhm * (1 - 1e-9))
          const nearest = computed(ledResistor({ ...request, mA, eSeries, choose: 'nearest' }))
          const off = (ohm: number) => Math.abs(Math.log(ohm / up.exactOhm))
          expect(off(nearest.ohm)).toBeLessThanOrEqual(off(up.ohm) + 1e-9)
        },
      ),
    ))
  test('too much for the pin, too little over the resistor', () => {
    expect(computed(ledResistor({ ...request, parallel: 4 })).warnings).toEqual(['caution-pin-limit'])
    expect(computed(ledResistor({ ...request, vf: 3.1 })).warnings).toEqual(['caution-low-headroom'])
  })
  test('bad input at its place', () => {
    expect(fault(ledResistor({ ...request, supplyV: 230 }))).toBe('range /supplyV')
    expect(fault(ledResistor({ ...request, vf: 4 }))).toBe('range /vf')
    expect(fault(ledResistor({ ...request, mA: 1e-6 }))).toBe('range /mA')
    expect(fault(ledResistor({ ...request, eSeries: 'E7' }))).toBe('input /eSeries')
  })
})

describe('which route', () => {
  const all = { button: true, enclosed: true, certified: true, noAccount: true }
  const routes = [
    {
      id: 'reflash-wires',
      unitPrice: 9.5,
      fixedCost: 22,
      minutesFirst: 95,
      learningRate: 0.8,
      minMinutes: 12,
      failProb: 0.05,
      criteria: { ...all, certified: false },
    },
    {
      id: 'ready-flashed',
      unitPrice: 19,
      fixedCost: 0,
      minutesFirst: 15,
      learningRate: 0.95,
      failProb: 0.01,
      criteria: all,
    },
    {
      id: 'build',
      unitPrice: 8.2,
      fixedCost: 30,
      minutesFirst: 150,
      learningRate: 0.85,
      failProb: 0.08,
      failCost: 0,
      criteria: { noAccount: true },
    },
    {
      id: 'keep-local',
      unitPrice: 9.5,
      fixedCost: 0,
      minutesFirst: 40,
      learningRate: 0.85,
      failProb: 0,
      criteria: { ...all, noAccount: false },
    },
    {
      id: 'swap-module',
      unitPrice: 12.4,
      fixedCost: 60,
      minutesFirst: 120,
      learningRate: 0.8,
      failProb: 0.1,
      criteria: { ...all, certified: false },
    },
  ]
  const request = { n: [1, 5, 20], hourValue: 12, maxN: 200, tornadoN: 20, must: ['noAccount'], routes }
  test('the worked example', () => {
    const { results, breakEven, tornado } = computed(compareRoutes(request))
    const total = (i: number, id: string) => results[i]?.routes.find((r) => r.id === id)?.total.toFixed(2)
    const table = ['ready-flashed', 'reflash-wires', 'build', 'swap-module'].map((id) =>
      [0, 1, 2].map((i) => total(i, id)),
    )
    expect(table).toEqual([
      ['22.22', '110.08', '435.71'],
      ['52.00', '146.00', '428.84'],
      ['71.52', '204.44', '606.18'],
      ['100.44', '226.54', '607.53'],
    ])
    expect(results.map((r) => r.best)).toEqual(['ready-flashed', 'ready-flashed', 'reflash-wires'])
    expect(results[2]?.routes.at(-1)).toMatchObject({ id: 'keep-local', eligible: false })
    expect(total(2, 'keep-local')).toBe('289.22')
    expect(breakEven.find((b) => b.a === 'reflash-wires' && b.b === 'ready-flashed')?.breakEvenN).toBe(19)
    expect(tornado.slice(0, 3).map((t) => t.input)).toEqual([
      'hourValue',
      'reflash-wires.minutesFirst',
      'reflash-wires.unitPrice',
    ])
    expect([tornado[0]?.low, tornado[0]?.high].map((x) => x?.toFixed(3))).toEqual(['377.129', '480.548'])
    expect(tornado[2]?.swing).toBeCloseTo(100, 0)
    expect(tornado.slice(0, 3).every((t) => t.changesBest)).toBe(true)
  })
  test('totals rise with every price', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('unitPrice', 'fixedCost', 'minutesFirst', 'failCost'),
        fc.integer({ min: 1, max: 60 }),
        (key, n) => {
          const of = (more: number) => {
            const [first] = routes as [(typeof routes)[number]]
            const dearer = {
              ...first,
              failCost: 1,
              [key]: ((first as unknown as Record<string, number>)[key] ?? 1) + more,
            }
            return computed(compareRoutes({ n, hourValue: 12, routes: [dearer] })).results[0]?.routes[0]?.total ?? 0
          }
          expect(of(1)).toBeGreaterThan(of(0))
        },
      ),
    ))
  test('nothing that may be chosen is no best, and a route that is there twice is refused', () => {
    expect(computed(compareRoutes({ ...request, must: ['flies'] }))).toMatchObject({
      tornado: [],
      results: [{ best: null }, {}, {}],
    })
    expect(fault(compareRoutes({ ...request, routes: [routes[0], routes[0]] }))).toBe('conflict /routes/1/id')
    expect(fault(compareRoutes({ ...request, n: 0 }))).toMatch(/^range|^input/)
  })
})
