import fc from 'fast-check'
import { computed } from '../testing/like'
import { acSense } from './ac-sense'
import { crossedBy, travelFit } from './travel'
import { watchdog } from './watchdog'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const runs = (dir: 'open' | 'close', ...all: number[]) => all.map((ms) => ({ dir, ms }))

describe('travel', () => {
  test('the worked example, with an outlier', () =>
    expect(
      computed(
        travelFit({
          runs: [...runs('open', 21120, 20930, 21240, 21010, 23900), ...runs('close', 18480, 18610, 18390)],
          tolPct: 5,
          meanMove: 0.5,
        }),
      ),
    ).toEqual({
      open: { n: 5, dropped: [23900], meanMs: 21075, sdMs: 134.8, spreadMs: 310, marginMs: 450 },
      close: { n: 3, dropped: [], meanMs: 18493.3, sdMs: 110.6, spreadMs: 220, marginMs: 400 },
      ratio: 1.1396,
      cvPct: 0.64,
      rehomeMoves: 61,
      warnings: [],
    }))
  test('one run each way is little, and scatters by nothing', () =>
    expect(computed(travelFit({ runs: [...runs('open', 20_000), ...runs('close', 15_000)] }))).toMatchObject({
      open: { sdMs: null, spreadMs: 0, marginMs: 400 },
      cvPct: null,
      rehomeMoves: null,
      warnings: ['few-open', 'few-close', 'ratio'],
    }))
  test('runs that scatter are said', () =>
    expect(
      computed(travelFit({ runs: [...runs('open', 20_000, 22_000, 24_000), ...runs('close', 20_000, 20_100, 20_050)] }))
        .warnings,
    ).toEqual(['spread-open']))
  test('bad input at its place', () => {
    expect(fault(travelFit({ runs: runs('open', 1) }))).toBe('few /runs')
    expect(fault(travelFit({ runs: [...runs('open', 0), ...runs('close', 1)] }))).toBe('range /runs/0/ms')
    expect(fault(travelFit({ runs: [{ dir: 'up', ms: 1 }] }))).toBe('shape /runs/0/dir')
  })
  test('which pair of wires is crossed', () => {
    expect(crossedBy('open', 'open')).toBe('nothing')
    expect(crossedBy('close', 'close')).toBe('outputs')
    expect(crossedBy('open', 'close')).toBe('inputs')
    expect(crossedBy('close', 'open')).toBe('both')
    expect(crossedBy('open', null)).toBeNull()
  })
})

describe('mains inputs', () => {
  test('the worked examples', () => {
    expect(
      computed(
        acSense({ hz: [50, 60], pulsesPerCycle: 1, edges: 1, windowMs: 300, noise: [0, 2, 1], pressMaxMs: 1200 }),
      ),
    ).toEqual({
      perHz: [
        { hz: 50, spacingMs: 20, expected: 15, min: 15, max: 15, boundary: false },
        { hz: 60, spacingMs: 16.667, expected: 18, min: 18, max: 18, boundary: false },
      ],
      noiseMax: 2,
      separable: true,
      threshold: 9,
      bestMs: 150,
      sureMs: 360,
      worstMs: 600,
      needWindowMs: null,
      lockoutMs: 1500,
    })
    expect(
      computed(
        acSense({
          hz: [50, 60],
          pulsesPerCycle: 2,
          edges: 1,
          windowMs: 200,
          deadMs: 36,
          noise: [0, 3],
          pressMaxMs: 1200,
        }),
      ),
    ).toEqual({
      perHz: [
        { hz: 50, spacingMs: 40, expected: 5, min: 5, max: 5, boundary: false },
        { hz: 60, spacingMs: 41.667, expected: 4.8, min: 4, max: 5, boundary: false },
      ],
      noiseMax: 3,
      separable: false,
      threshold: null,
      bestMs: null,
      sureMs: null,
      worstMs: null,
      needWindowMs: 250,
      lockoutMs: 1400,
    })
  })
  test('a dead time of just two pulses: jitter decides, and both are counted with', () =>
    expect(computed(acSense({ hz: [50], pulsesPerCycle: 1, windowMs: 300, deadMs: 40 })).perHz).toEqual([
      { hz: 50, spacingMs: 40, expected: 7.5, min: 5, max: 8, boundary: true },
    ]))
  test('bad input at its place', () => {
    const good = { hz: [50], pulsesPerCycle: 1, windowMs: 300 }
    expect(fault(acSense({ ...good, hz: [39] }))).toBe('range /hz/0')
    expect(fault(acSense({ ...good, pulsesPerCycle: 3 }))).toBe('range /pulsesPerCycle')
    expect(fault(acSense({ ...good, windowMs: 0 }))).toBe('range /windowMs')
    expect(fault(acSense({ ...good, edges: 0 }))).toBe('range /edges')
  })
  test('a window as long as it says it needs can tell pressed from released', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 40, max: 70 }),
        fc.nat(12),
        fc.integer({ min: 20, max: 400 }),
        (hz, noise, windowMs) => {
          const request = { hz: [hz], pulsesPerCycle: 1, windowMs, noise: [noise] }
          const { needWindowMs } = computed(acSense(request))
          if (needWindowMs !== null)
            expect(computed(acSense({ ...request, windowMs: needWindowMs })).separable).toBe(true)
        },
      ),
    ))
})

describe('watchdog', () => {
  const params = { checkMs: 240_000, retryMs: 20_000, failMs: 600_000, offMs: 12_000, bootMs: 150_000, coolMs: 900_000 }
  const trace = {
    untilMs: 14_400_000,
    rebootMs: 110_000,
    minOffMs: 8000,
    outages: [
      { kind: 'hang', from: 1_000_000 },
      { kind: 'line', from: 5_000_000, to: 5_400_000 },
      { kind: 'line', from: 8_000_000, to: 9_500_000 },
    ],
  }
  test('the worked example', () =>
    expect(
      computed(watchdog({ params, trace, vary: { param: 'failMs', values: [120_000, 600_000, 1_800_000] } })),
    ).toEqual({
      checks: 163,
      cycles: [
        { t: 1_800_000, kind: 'useful' },
        { t: 8_642_000, kind: 'needless' },
      ],
      needless: 1,
      outages: [
        { from: 1_000_000, detectMs: 200_000, upMs: 922_000 },
        { from: 5_000_000, detectMs: 82_000, upMs: 400_000 },
        { from: 8_000_000, detectMs: 42_000, upMs: 1_500_000 },
      ],
      downMs: 2_822_000,
      warnings: [],
      formula: { meanToOffMs: 720_000, worstToOffMs: 840_000, meanToUpMs: 842_000 },
      vary: [
        { value: 120_000, cycles: 4, needless: 3, downMs: 2_342_000 },
        { value: 600_000, cycles: 2, needless: 1, downMs: 2_822_000 },
        { value: 1_800_000, cycles: 1, needless: 0, downMs: 4_022_000 },
      ],
    }))
  test('an off too short never ends a hang', () => {
    const run = computed(
      watchdog({ params: { ...params, offMs: 2000 }, trace: { ...trace, outages: [trace.outages[0]] } }),
    )
    expect(run.warnings).toEqual(['short-off'])
    expect(run.outages).toEqual([{ from: 1_000_000, detectMs: 200_000, upMs: null }])
    expect(run.cycles.every((c) => c.kind === 'needless')).toBe(true)
  })
  test('a modem that never gets to finish its start is said', () =>
    expect(computed(watchdog({ params: { ...params, bootMs: 1000, failMs: 0 }, trace })).warnings).toEqual([
      'boot-loop',
    ]))
  test('an outage that ends before anybody looks is not noticed', () =>
    expect(
      computed(watchdog({ params, trace: { ...trace, outages: [{ kind: 'line', from: 10, to: 20 }] } })).outages,
    ).toEqual([{ from: 10, detectMs: null, upMs: 10 }]))
  test('bad input at its place', () => {
    expect(fault(watchdog({ params, trace, vary: { param: 'x', values: [1] } }))).toBe('ref /vary/param')
    expect(fault(watchdog({ params: { ...params, retryMs: 0 }, trace }))).toBe('range /params/retryMs')
    expect(fault(watchdog({ params, trace: { ...trace, untilMs: 1e13 } }))).toBe('range /trace/untilMs')
    expect(fault(watchdog({ params: { ...params, checkMs: undefined }, trace }))).toMatch(/^shape/)
  })
  test('it ends with nothing to wait for too', () =>
    expect(
      computed(
        watchdog({
          params: { ...params, failMs: 0, offMs: 0, bootMs: 0, coolMs: 0 },
          trace: { untilMs: 50, rebootMs: 0, minOffMs: 0, outages: [{ kind: 'line', from: 0, to: 100 }] },
        }),
      ).cycles,
    ).toHaveLength(50))
})
