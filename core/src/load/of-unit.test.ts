import { board, type Records, unit, unmet } from '../testing/a-unit'
import type { UnitView } from '../unit/view'
import { electricOf, loadOf, PrintedRating, ratingsOf, unitLoadFindings } from './of-unit'

const printed = (more: object) => PrintedRating.parse({ source: 'package', ...more })
const arrived = (arrive: Records['arrive'], more: Partial<UnitView> = {}) => unit({ arrive }, { board, ...more })
const reasons = (view: UnitView) => loadOf(view)?.check.reasons ?? null

test('nothing is guessed: without a load or a marking there is no check', () => {
  expect(loadOf(arrived({ loadWatts: 800 }))).toBeNull()
  expect(loadOf(arrived({ ratedAmps: 10 }))).toBeNull()
  expect(unitLoadFindings(arrived({ ratedAmps: 10 }))).toEqual([])
})

test('a heater whose relay says more than its case: the least counts, and the contradiction is named', () => {
  const ratings = [printed({ W: 900, Vmax: 240 }), printed({ source: 'relay', A: 10, Vmax: 250 })]
  const view = arrived({ load: 'heater', loadWatts: 2000, loadHours: 4, ratings })
  const load = loadOf(view)
  expect([load?.check.verdict, load?.check.limit.source]).toEqual(['stop', 'package'])
  expect(load?.check.reasons).toEqual(expect.arrayContaining(['stop-over', 'note-contradiction']))
  expect(unmet(view, 'prove')).toContain('It is more than the least of its ratings.')
  // The same heater in what may carry it.
  const fits = arrived({ load: 'heater', loadWatts: 2000, ratings: [printed({ A: 16 })] })
  expect(unmet(fits, 'prove')).not.toContain('It is more than the least of its ratings.')
  expect(unitLoadFindings(fits).map((f) => f.severity)).not.toContain('error')
})

test('the markings of its board count until its own are written down, the case’s current beside them', () => {
  const known = { ...board, ratedAmps: 6, ratings: [printed({ source: 'relay', A: 10 })] }
  const of = (arrive: Records['arrive']) => ratingsOf(arrived(arrive, { board: known })).map((r) => [r.source, r.A])
  expect(of({})).toEqual([
    ['package', 6],
    ['relay', 10],
  ])
  expect(of({ ratings: [printed({ source: 'package', A: 3 })] })).toEqual([['package', 3]])
})

test('what nobody has said the kind of is never called fitting without a word', () => {
  const lamp = arrived({ load: 'lamp', loadWatts: 60, ratedAmps: 10 })
  expect(electricOf(lamp.records.arrive.data)).toBeNull()
  expect(unitLoadFindings(lamp).map((f) => f.code)).toContain('load-kind-unknown')
  const led = arrived({ load: 'lamp', electric: 'led', loadWatts: 60, ratedAmps: 10 })
  expect(reasons(led)).toContain('caution-inrush-unknown')
  expect(unitLoadFindings(led).map((f) => f.code)).not.toContain('load-kind-unknown')
})

test('its use tells the kind where it can; a person who looked knows better', () => {
  const kind = (load: NonNullable<Records['arrive']>['load'], electric: 'led' | null = null) =>
    electricOf(arrived({ load, electric }).records.arrive.data)
  expect([kind('heater'), kind('pump'), kind('modem'), kind('lamp'), kind('lamp', 'led')]).toEqual([
    'resistive',
    'motor',
    'charger',
    null,
    'led',
  ])
})

test('a unit that never meets the mains is judged on direct current; relay contacts for AC alone are stopped', () => {
  const low = { ...board, mains: false }
  const of = (ratings: PrintedRating[]) =>
    reasons(arrived({ load: 'motor', loadWatts: 30, mainsVolts: 12, ratings }, { board: low }))
  expect(of([printed({ source: 'relay', A: 10, current: 'ac' })])).toContain('stop-dc-rating')
  expect(of([printed({ source: 'relay', A: 10, current: 'both' })])).not.toContain('stop-dc-rating')
  // The one current of its case is what it is fed with.
  expect(
    reasons(arrived({ load: 'motor', loadWatts: 30, mainsVolts: 12, ratedAmps: 5 }, { board: low })),
  ).not.toContain('stop-dc-rating')
})

test('a wound-up reel and a latch without its diode are told', () => {
  const lead = { A: 10, wound: true }
  expect(reasons(arrived({ load: 'heater', loadWatts: 2000, ratedAmps: 16, lead }))).toEqual(
    expect.arrayContaining(['stop-over', 'caution-lead', 'caution-lead-wound']),
  )
  const latch = { A: 0.5, V: 12, supplyA: 0.55, flyback: false, holdN: 180 }
  const low = { ...board, mains: false }
  const of = (load: 'latch-locks' | 'latch-unlocks', wayOut: boolean) =>
    reasons(arrived({ load, wayOut, loadWatts: 6, mainsVolts: 12, ratedAmps: 3, latch }, { board: low }))
  expect(of('latch-unlocks', true)).toEqual(expect.arrayContaining(['caution-flyback', 'caution-latch-supply']))
  expect(of('latch-locks', true)).toContain('stop-escape')
})

test('several coils on one small supply: all at once is stopped where they draw more than it gives; half said is not judged', () => {
  const coils = { count: 4, mA: 70, boardMA: 100, supplyMA: 300 }
  const of = (more: object) =>
    loadOf(arrived({ load: 'heater', loadWatts: 500, ratedAmps: 10, coils: { ...coils, ...more } }))
  expect([of({})?.check.coils?.maxOn, of({})?.check.reasons]).toEqual([2, expect.arrayContaining(['stop-coils'])])
  expect(of({ supplyMA: null })?.check.coils).toBeUndefined()
  // What the board beside them draws may stay unknown: then it counts as nothing.
  expect(of({ boardMA: null })?.check.coils?.mA).toBe(280)
})
