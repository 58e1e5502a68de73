import fc from 'fast-check'
import { computed } from '../testing/like'
import { checkLoad } from './check'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const ac = { kind: 'ac', V: 230 }
const relay = { source: 'relay', A: 10, Vmax: 250 }
const heater = { kind: 'resistive', W: 800 }
const reasons = (more: object) => computed(checkLoad({ supply: ac, ratings: [relay], load: heater, ...more })).reasons

test('the worked examples: a dressing-room heater for four hours, a curtain motor', () => {
  const dressing = computed(
    checkLoad({
      supply: { kind: 'ac', V: 230, Hz: 50 },
      ratings: [
        { source: 'package', W: 900, Vmin: 100, Vmax: 240 },
        { source: 'relay', A: 10, Vmax: 250 },
        { source: 'terminals', A: 6, Vmax: 300 },
      ],
      load: { kind: 'resistive', W: 800, hours: 4 },
    }),
  )
  expect(dressing).toMatchObject({
    verdict: 'caution',
    reasons: ['caution-derate', 'note-contradiction'],
    limit: { source: 'package' },
  })
  expect(dressing.I).toBeCloseTo(3.47826, 5)
  expect(dressing.limit.A).toBeCloseTo(3.91304, 5)
  expect(dressing.limit.deratedA).toBeCloseTo(3.13043, 5)
  expect(dressing.usePct).toBeCloseTo(88.8889, 4)
  expect(dressing.inrushA).toBeCloseTo(4.17391, 5)
  const motor = computed(
    checkLoad({
      supply: ac,
      ratings: [{ source: 'relay', A: 5, Vmax: 250 }],
      load: { kind: 'motor', W: 400, pf: 0.8 },
    }),
  )
  expect(motor).toMatchObject({ verdict: 'caution', reasons: ['caution-motor-rating'] })
  expect([motor.I, motor.usePct, motor.inrushA].map((x) => x.toFixed(4))).toEqual(['2.1739', '43.4783', '13.0435'])
})

test.each<[string, object, string[]]>([
  ['more than its rating', { load: { kind: 'resistive', A: 11 } }, ['stop-over']],
  ['a supply that a part is not made for', { supply: { kind: 'ac', V: 277 } }, ['stop-voltage']],
  ['a contact for AC on DC', { supply: { kind: 'dc', V: 24 }, load: { kind: 'resistive', A: 1 } }, ['stop-dc-rating']],
  [
    'a fuse for DC alone',
    {
      supply: { kind: 'dc', V: 24 },
      ratings: [{ source: 'fuse', A: 5, current: 'dc' }],
      load: { kind: 'resistive', A: 1 },
    },
    ['caution-dc-unrated'],
  ],
  [
    'inrush over what it may make',
    { ratings: [{ ...relay, makeA: 30 }], load: { kind: 'led', A: 1 } },
    ['stop-inrush'],
  ],
  ['inrush over five times the relay', { load: { kind: 'led', A: 2 } }, ['caution-inrush']],
  [
    'inrush and no relay',
    { ratings: [{ source: 'package', A: 10 }], load: { kind: 'led', A: 1 } },
    ['caution-inrush-unknown'],
  ],
  [
    'watts alone at another voltage',
    { supply: { kind: 'ac', V: 120 }, ratings: [{ source: 'relay', W: 2300 }] },
    ['caution-watts-only'],
  ],
  ['a reel that is wound up', { lead: { A: 16, wound: true } }, ['caution-lead', 'caution-lead-wound']],
  ['a power factor nobody measured', { load: { kind: 'charger', W: 10 } }, ['note-pf-assumed']],
  [
    'a latch that locks, on a way out',
    { latch: { A: 0.3, V: 12, supplyA: 1, flyback: true, onPowerLoss: 'locks', escapeRoute: true } },
    ['stop-escape'],
  ],
  [
    'a latch nobody tried',
    { latch: { A: 0.9, V: 12, supplyA: 1, flyback: false } },
    ['caution-flyback', 'caution-latch-supply', 'caution-power-loss-unknown'],
  ],
])('%s', (_, more, expected) => expect(reasons(more)).toEqual(expected))

test('coils: how many at once, of all there are', () => {
  const { coils } = computed(
    checkLoad({ supply: ac, ratings: [relay], load: heater, coils: { count: 4, mA: 70, boardMA: 100, supplyMA: 300 } }),
  )
  expect(coils).toEqual({ mA: 380, usePct: expect.closeTo(126.667, 2), maxOn: 2 })
})

test('never milder when a rating falls or the load rises', () => {
  const grade = { ok: 0, caution: 1, stop: 2 }
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 20, noNaN: true }),
      fc.double({ min: 0.1, max: 20, noNaN: true }),
      fc.constantFrom('resistive', 'motor', 'led'),
      (A, load, kind) => {
        const verdict = (rated: number, carried: number) =>
          grade[
            computed(
              checkLoad({ supply: ac, ratings: [{ source: 'relay', A: rated }], load: { kind, A: carried, hours: 4 } }),
            ).verdict
          ]
        expect(verdict(A * 0.8, load)).toBeGreaterThanOrEqual(verdict(A, load))
        expect(verdict(A, load * 1.2)).toBeGreaterThanOrEqual(verdict(A, load))
      },
    ),
  )
})

test('bad input at its place', () => {
  const good = { supply: ac, ratings: [relay], load: heater }
  expect(fault(checkLoad({ ...good, ratings: [] }))).toBe('empty /ratings')
  expect(fault(checkLoad({ ...good, load: { ...heater, pf: 1.2 } }))).toBe('range /load/pf')
  expect(fault(checkLoad({ ...good, load: { kind: 'oven', W: 1 } }))).toBe('input /load/kind')
  expect(fault(checkLoad({ ...good, ratings: [{ source: 'relay', A: 0 }] }))).toBe('range /ratings/0/A')
})
