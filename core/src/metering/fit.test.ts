import fc from 'fast-check'
import { computed, refusalOf } from '../testing/like'
import { addMonths, fitMeter } from './fit'
import { t975 } from './student'

const glue = {
  quantity: 'P',
  date: '2026-05-12',
  recheckMonths: 12,
  reference: { gainPct: 0.5, digits: 2, resolution: 0.1 },
  indicatedResolution: 0.1,
  rated: { P: 2300 },
  load: { kind: 'resistive', warm: true },
  limits: { pct: 1.0, abs: 0.5 },
  driftPct: 0.5,
  points: [
    { id: 'p1', group: '60', indicated: 58.1, reference: 60.2 },
    { id: 'p2', indicated: 115.9, reference: 120.4 },
    { id: 'p3', indicated: 481.0, reference: 500.9 },
    { id: 'p4', indicated: 961.8, reference: 1001.2 },
    { id: 'p5', indicated: 1844.6, reference: 1921.0 },
    { id: 'p6', group: '60', indicated: 58.0, reference: 60.1 },
    { id: 'v1', role: 'verify', indicated: 722.4, reference: 751.6 },
  ],
  zeroReadings: [0.0, 0.1, 0.0, 0.2, 0.1],
  bandAt: [100, 1500],
}
const near = (actual: number | null | undefined, expected: number, tolerance: number) =>
  expect(Math.abs((actual as number) - expected)).toBeLessThanOrEqual(tolerance)

describe('the glue-pot plug', () => {
  const fit = computed(fitMeter(glue))
  test('gain and offset win on both counts', () => {
    expect([fit.model, fit.why]).toEqual(['gainOffset', 'aicc-and-loocv'])
    near(fit.aicc.gain, 0.576564, 1e-4)
    near(fit.aicc.gainOffset, -14.3668, 1e-3)
    near(fit.loocv.gain, 0.28467, 1e-4)
    near(fit.loocv.gainOffset, 0.043268, 1e-5)
    near(fit.gain, 1.04161, 1e-5)
    near(fit.seGain, 0.000159879, 1e-8)
    near(fit.offset, -0.314963, 1e-3)
    near(fit.seOffset, 0.0198575, 1e-5)
  })
  test('errors before and after, and the uncertainty that holds the class', () => {
    for (const [id, before, after, U] of [
      ['p1', -3.48837, 0.00428191, 0.582242],
      ['p3', -3.97285, -0.0400395, 3.12506],
      ['p5', -3.9771, 0.00202096, 11.3363],
    ] as const) {
      const p = fit.points.find((x) => x.id === id)
      near(p?.errBeforePct, before, 1e-4)
      near(p?.errAfterPct, after, 1e-4)
      near(p?.U, U, 1e-3)
    }
    expect(fit.verify[0]).toMatchObject({ verdict: 'pass', guarded: 'pass' })
    near(fit.verify[0]?.limit, 7.516, 1e-9)
    near(fit.verify[0]?.errAfterPct, 0.0723913, 1e-4)
    near(fit.verify[0]?.U, 4.57854, 1e-3)
  })
  test('band, warnings, least visible power, due date', () => {
    near(fit.band[1]?.lo, 1560.87, 0.01)
    near(fit.band[1]?.hi, 1563.33, 0.01)
    expect(fit.warnings).toEqual(['weak-reference'])
    near(fit.minDetectable, 0.330998, 1e-5)
    expect([fit.due, fit.passed]).toEqual(['2027-05-12', true])
  })
  test('gain alone, for a plug that keeps no offset', () => {
    const gain = computed(fitMeter({ ...glue, model: 'gain' }))
    near(gain.gain, 1.04, 5e-6)
    near(gain.verify[0]?.errAfterPct, -0.0402371, 1e-4)
    expect(gain.why).toBe('forced')
  })
})

describe('warnings', () => {
  const warn = (change: object) => computed(fitMeter({ ...glue, ...change })).warnings
  test.each<[string, object]>([
    [
      'one-point',
      {
        points: [
          { id: 'a', indicated: 58, reference: 60 },
          { id: 'b', indicated: 58.2, reference: 60.3 },
        ],
      },
    ],
    [
      'top-only',
      {
        rated: { P: 70 },
        points: [
          { id: 'a', indicated: 58, reference: 60 },
          { id: 'b', indicated: 62, reference: 65 },
        ],
      },
    ],
    ['not-resistive', { load: { kind: 'motor', warm: true } }],
    ['cold', { load: { kind: 'resistive', warm: false } }],
    ['over-rating', { rated: { P: 1500 } }],
    ['no-verify', { points: glue.points.slice(0, 6) }],
    ['few-zeros', { zeroReadings: [0] }],
    ['ref-coarse', { reference: { gainPct: 0.5, digits: 2, resolution: 1 } }],
    ['misfit', { points: [...glue.points, { id: 'p7', indicated: 300, reference: 400 }] }],
    ['drift', { points: glue.points.map((p) => (p.id === 'p6' ? { ...p, indicated: 59 } : p)) }],
  ])('%s', (code, change) => expect(warn(change)).toContain(code))
})

test('points in exact proportion give exactly that gain, whatever the weights', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.2, max: 5, noNaN: true }),
      fc.uniqueArray(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 8 }),
      (gain, xs) => {
        const fit = computed(
          fitMeter({
            ...glue,
            model: 'gain',
            points: xs.map((x, i) => ({ id: String(i), indicated: x, reference: gain * x })),
          }),
        )
        expect(fit.gain).toBeCloseTo(gain, 9)
      },
    ),
  )
})

test('quantiles of t', () => {
  for (const [dof, t] of [
    [1, 12.7062],
    [2, 4.3027],
    [3, 3.1824],
    [4, 2.7764],
    [5, 2.5706],
    [10, 2.2281],
  ] as const)
    near(t975(dof), t, 5e-5)
})

test('months are clipped', () =>
  expect([addMonths('2027-01-31', 1), addMonths('2028-01-31', 1), addMonths('2026-11-30', 3)]).toEqual([
    '2027-02-28',
    '2028-02-29',
    '2027-02-28',
  ]))

test.each([
  [{ ...glue, points: [] }, 'empty', '/points'],
  [{ ...glue, points: [{ id: 'a', indicated: 1, reference: 0 }] }, 'range', '/points/0/reference'],
  [{ ...glue, points: [{ id: 'a', indicated: -1, reference: 5 }] }, 'range', '/points/0/indicated'],
  [{ ...glue, points: [{ id: 'a', indicated: 'x', reference: 5 }] }, 'input', '/points/0/indicated'],
  [{ ...glue, model: 'gainOffset', points: [{ id: 'a', indicated: 58, reference: 60 }] }, 'range', '/model'],
  [{ ...glue, reference: { gainPct: 0, digits: 0, resolution: 0.1 }, indicatedResolution: 0 }, 'range', '/reference'],
  [{ ...glue, quantity: 'E' }, 'input', '/quantity'],
])('bad input %#', (input, code, path) => {
  expect(refusalOf(fitMeter(input))).toEqual([code, path])
})
