import fc from 'fast-check'
import { checkRegulator, type RegulatorCheck } from './regulator'

const example = {
  vin: 5,
  vout: 3.3,
  dropoutV: 1.1,
  iMaxMA: 800,
  thetaJA: 90,
  ambientC: 40,
  tjMaxC: 125,
  loads: [
    { id: 'module', avgMA: 85, peakMA: 350 },
    { id: 'motion sensor', avgMA: 3, peakMA: 5 },
    { id: 'status led', avgMA: 4, count: 2 },
  ],
}
const of = (more: object): RegulatorCheck => {
  const out = checkRegulator({ ...example, ...more })
  if (!out.ok) throw new Error(JSON.stringify(out.faults))
  return out.value
}

test('the worked example', () => {
  const out = of({})
  expect(out).toMatchObject({ avgMA: 96, peakMA: 363, verdict: 'ok', reasons: [] })
  expect(out.W).toBeCloseTo(0.1632, 6)
  expect(out.tjC).toBeCloseTo(54.688, 6)
  expect(out.heatLimitMA).toBeCloseTo(392.157, 3)
  expect(out.spareMA).toBeCloseTo(296.157, 3)
})

test.each<[string, object, string[]]>([
  ['a drop just as large as it needs', { vout: 3.9 }, []],
  ['a drop that is too small', { vin: 4.3 }, ['stop-dropout']],
  ['bursts above its most', { iMaxMA: 362 }, ['stop-peak']],
  ['bursts at its most', { iMaxMA: 363 }, []],
  ['a hot room', { ambientC: 86 }, ['caution-heat']],
  ['a hotter one', { ambientC: 111 }, ['stop-heat']],
  ['too much on average', { loads: [{ id: 'heater', avgMA: 641 }], thetaJA: 1 }, ['caution-average']],
])('%s', (_, more, reasons) => expect(of(more).reasons).toEqual(reasons))

test('ambient and the most of the junction have usual values', () =>
  expect(of({ ambientC: undefined, tjMaxC: null }).tjC).toBeCloseTo(25 + 0.1632 * 90, 6))

test('without any drop heat is no limit', () =>
  expect(of({ vin: 3.3, dropoutV: 0 })).toMatchObject({ W: 0, heatLimitMA: null }))

test.each<[string, object, string, string]>([
  ['nothing to feed', { loads: [] }, 'empty', '/loads'],
  ['no regulator', { iMaxMA: undefined }, 'input', '/iMaxMA'],
  ['a current below zero', { loads: [{ id: 'a', avgMA: -1 }] }, 'range', '/loads/0/avgMA'],
  ['no voltage', { vin: 0 }, 'range', '/vin'],
  ['a text', { thetaJA: '90' }, 'input', '/thetaJA'],
])('%s is refused', (_, more, code, path) =>
  expect(checkRegulator({ ...example, ...more })).toMatchObject({ ok: false, faults: [{ code, path }] }),
)

test('it never gets milder with more load, and what is spare may be added', () =>
  fc.assert(
    fc.property(fc.double({ min: 0, max: 700, noNaN: true }), fc.double({ min: 0, max: 300, noNaN: true }), (a, b) => {
      const rank = { ok: 0, caution: 1, stop: 2 }
      const less = of({ loads: [{ id: 'x', avgMA: a }] })
      const more = of({ loads: [{ id: 'x', avgMA: a + b }] })
      expect(rank[more.verdict]).toBeGreaterThanOrEqual(rank[less.verdict])
      if (less.verdict === 'ok') expect(of({ loads: [{ id: 'x', avgMA: a + less.spareMA }] }).verdict).toBe('ok')
    }),
  ))
