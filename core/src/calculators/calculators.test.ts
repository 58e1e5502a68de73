import fc from 'fast-check'
import { computed, expectLike } from '../testing/like'
import { batteryLife } from './battery'
import { areaOfGauge, dcDrop } from './dc-drop'
import { reportLoad } from './report-load'

const lead = { V: 12, A: 2, lengthM: 5, areaMm2: 0.75, tempC: 40, cableA: 6 }
const battery = { mAh: 2500, sleepUA: 20, wakeMA: 80, wakeS: 4, perHour: 6 }
const reports = {
  units: [
    { n: 12, periodS: 10 },
    { n: 3, perMessageBytes: 450, periodS: 60 },
  ],
  maxPerMinute: 30,
}

describe('the worked examples', () => {
  test('a lead', () =>
    expectLike(
      computed(dcDrop(lead)),
      {
        areaMm2: 0.75,
        ohm: 0.251673,
        dropV: 0.503347,
        dropPct: 4.19456,
        lossW: 1.00669,
        minAreaMm2: 1.04864,
        fuse: { min: 2.5, max: 6 },
        verdict: 'caution',
        reasons: ['caution-drop'],
      },
      1e-5,
    ))
  test('a battery', () =>
    expectLike(computed(batteryLife(battery)), { avgMA: 0.553333, drainMA: 0.608128, days: 137.0326 }, 1e-4))
  test('reports', () =>
    expect(computed(reportLoad(reports))).toEqual({ perMinute: 75, bytesPerSecond: 262.5, factor: 2.5 }))
})

describe('a lead', () => {
  test('gauges: 36 is 0.012668 mm², and six gauges down is about four times the area', () => {
    expect(areaOfGauge(36)).toBe(0.012668)
    expect(areaOfGauge(-3)).toBeCloseTo(107.22, 1)
    expect(areaOfGauge(12) / areaOfGauge(18)).toBeCloseTo(4.0, 1)
  })
  test('of the least area the drop is just what is allowed', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 60, noNaN: true }),
        fc.double({ min: 0.1, max: 20, noNaN: true }),
        fc.double({ min: 0.1, max: 50, noNaN: true }),
        (V, A, lengthM) => {
          const { minAreaMm2 } = computed(dcDrop({ V, A, lengthM, areaMm2: 1 }))
          expect(computed(dcDrop({ V, A, lengthM, areaMm2: minAreaMm2 })).dropPct).toBeCloseTo(3, 9)
        },
      ),
    ))
  test('a fuse that the cable cannot bear stops, before the drop is spoken of', () =>
    expect(computed(dcDrop({ ...lead, cableA: 2 }))).toMatchObject({
      verdict: 'stop',
      reasons: ['stop-fuse', 'caution-drop'],
    }))
  test('nobody said what the cable carries: no upper bound, and nothing is claimed', () =>
    expect(computed(dcDrop({ V: 12, A: 0.1, lengthM: 1, awg: 18 }))).toMatchObject({
      fuse: { max: null },
      verdict: 'ok',
      reasons: [],
    }))
})

test('a limit that is met needs nothing, and without one nothing is said', () => {
  expect(computed(reportLoad({ ...reports, maxPerMinute: 75 })).factor).toBe(1)
  expect(computed(reportLoad({ units: reports.units })).factor).toBeNull()
})

test('all periods grown by the factor, the limit is just met', () =>
  fc.assert(
    fc.property(
      fc.array(fc.record({ n: fc.integer({ min: 1, max: 50 }), periodS: fc.integer({ min: 1, max: 600 }) }), {
        minLength: 1,
        maxLength: 6,
      }),
      fc.integer({ min: 1, max: 100 }),
      (units, maxPerMinute) => {
        const { factor } = computed(reportLoad({ units, maxPerMinute }))
        const slower = units.map((u) => ({ ...u, periodS: u.periodS * (factor as number) }))
        expect(computed(reportLoad({ units: slower })).perMinute).toBeLessThanOrEqual(maxPerMinute * (1 + 1e-9))
      },
    ),
  ))

test.each<[string, (input: unknown) => unknown, object, string, string]>([
  ['both area and gauge', dcDrop, { ...lead, awg: 18 }, 'conflict', '/awg'],
  ['neither', dcDrop, { ...lead, areaMm2: undefined }, 'input', '/areaMm2'],
  ['half a gauge', dcDrop, { ...lead, areaMm2: null, awg: 17.5 }, 'range', '/awg'],
  ['gauge 41', dcDrop, { ...lead, areaMm2: null, awg: 41 }, 'range', '/awg'],
  ['no voltage', dcDrop, { ...lead, V: 0 }, 'range', '/V'],
  ['too hot', dcDrop, { ...lead, tempC: 151 }, 'range', '/tempC'],
  ['all of it may be lost, and more', dcDrop, { ...lead, maxPct: 101 }, 'range', '/maxPct'],
  ['a text', dcDrop, { ...lead, A: '2' }, 'input', '/A'],
  ['no capacity', batteryLife, { ...battery, mAh: 0 }, 'range', '/mAh'],
  ['more than all of it', batteryLife, { ...battery, usable: 1.1 }, 'range', '/usable'],
  ['awake for more than an hour in each', batteryLife, { ...battery, wakeS: 601 }, 'range', '/perHour'],
  ['no unit', reportLoad, { units: [] }, 'empty', '/units'],
  ['half a unit', reportLoad, { units: [{ n: 0.5, periodS: 1 }] }, 'range', '/units/0/n'],
  ['no period', reportLoad, { units: [{ n: 1 }] }, 'input', '/units/0/periodS'],
])('%s is refused', (_, run, input, code, path) =>
  expect(run(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
)
