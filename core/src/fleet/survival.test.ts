import fc from 'fast-check'
import { computed } from '../testing/like'
import { fleetSurvival, rateOf } from './survival'

const units = (...rows: [days: number, restarts: number][]) =>
  rows.map(([days, restarts], i) => ({ id: `LY-${i + 1}`, days, restarts }))
const example = {
  releases: [
    { version: '1.4', units: units([210, 1], [190, 3]) },
    { version: '1.5', units: units([52.5, 1], [38, 0]) },
  ],
}
const run = (input: object) => computed(fleetSurvival(input))

test('the worked example', () => {
  const out = run(example)
  const [a, b] = out.releases
  expect([a?.days, a?.restarts, a?.rate]).toEqual([400, 4, 0.01])
  expect(a?.lower).toBeCloseTo(0.00272466, 8)
  expect(a?.upper).toBeCloseTo(0.025604, 7)
  expect(b?.rate).toBeCloseTo(0.0110497, 7)
  expect(b?.lower).toBeCloseTo(0.000279755, 9)
  expect(b?.upper).toBeCloseTo(0.0615651, 7)
  expect([out.of, out.verdict, out.moreDays]).toEqual(['1.5', 'wait', 21])
  expect(out.findings.map((f) => [f.code, f.severity])).toEqual([['survival-wait', 'watch']])
})

test('the interval begins at 0 without a restart, and there is none without a day', () => {
  expect(rateOf({ version: 'a', units: units([100, 0]) })).toMatchObject({ rate: 0, lower: 0 })
  expect(rateOf({ version: 'a', units: units([0, 2]) })).toMatchObject({ rate: null, lower: null, upper: null })
  expect(rateOf({ version: 'a', units: [] })).toMatchObject({ days: 0, rate: null })
})

describe('the verdict', () => {
  test('stop: too many for certain', () =>
    expect(run({ releases: [{ version: 'a', units: units([100, 30]) }] })).toMatchObject({
      verdict: 'stop',
      moreDays: null,
      findings: [{ code: 'survival-stop', severity: 'error' }],
    }))
  test('stop: for certain more than the release before it, though few', () =>
    expect(
      run({
        maxPerDay: 1,
        releases: [
          { version: 'a', units: units([10_000, 1]) },
          { version: 'b', units: units([1000, 40]) },
        ],
      }),
    ).toMatchObject({ verdict: 'stop' }))
  test('the one before it in the list, not some other one', () =>
    expect(
      run({
        maxPerDay: 1,
        of: 'a',
        releases: [
          { version: 'b', units: units([1000, 40]) },
          { version: 'a', units: units([10_000, 1]) },
        ],
      }),
    ).toMatchObject({ verdict: 'go', of: 'a' }))
  test('go: few for certain', () =>
    expect(run({ releases: [{ version: 'a', units: units([1000, 3]) }] })).toMatchObject({
      verdict: 'go',
      findings: [],
    }))
  test('nothing has run yet: so many days without a restart', () =>
    // −ln(0.025)/0.05 = 73.8
    expect(run({ releases: [{ version: 'a', units: units([0, 0]) }] })).toMatchObject({
      verdict: 'wait',
      moreDays: 74,
    }))
  test('more than 10 000 days are no promise', () =>
    expect(run({ maxPerDay: 0.0001, releases: [{ version: 'a', units: units([1, 0]) }] }).moreDays).toBeNull())
})

test('the days it waits for are enough, and one day less is not', () =>
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 12 }), (days, restarts) => {
      const of = (more: number) => run({ releases: [{ version: 'a', units: units([days, restarts], [more, 0]) }] })
      const first = of(0)
      if (first.verdict !== 'wait' || first.moreDays === null) return
      expect(of(first.moreDays).verdict).toBe('go')
      expect(of(first.moreDays - 1).verdict).toBe('wait')
    }),
  ))

test.each<[string, object, string, string]>([
  ['no release', { releases: [] }, 'empty', '/releases'],
  ['nothing', {}, 'input', '/releases'],
  ['a version twice', { releases: [example.releases[0], example.releases[0]] }, 'conflict', '/releases/1/version'],
  [
    'a unit twice',
    { releases: [{ version: 'a', units: [...units([1, 0]), ...units([1, 0])] }] },
    'conflict',
    '/releases/0/units/1/id',
  ],
  ['half a restart', { releases: [{ version: 'a', units: units([1, 0.5]) }] }, 'range', '/releases/0/units/0/restarts'],
  ['less than no day', { releases: [{ version: 'a', units: units([-1, 0]) }] }, 'range', '/releases/0/units/0/days'],
  ['at most none', { ...example, maxPerDay: 0 }, 'range', '/maxPerDay'],
  ['a release that is not there', { ...example, of: '1.6' }, 'input', '/of'],
  ['no name', { releases: [{ version: '', units: [] }] }, 'input', '/releases/0/version'],
])('%s is refused', (_, input, code, path) =>
  expect(fleetSurvival(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
)
