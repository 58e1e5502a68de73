import fc from 'fast-check'
import { asAsked, type HeardUnit, lastWordsOf, campaignUnit as unit } from '../testing/a-campaign'
import { backWithinMs, type Campaign, campaignKept, campaignNow, howItWent, mayBegin, ringMoved } from './campaign'

const start = '2026-06-01T10:00:00Z'
const from = Date.parse(start)
const make = (more: object = {}): Campaign =>
  campaignKept.parse({
    policy: {
      firmware: 'Plainsong',
      version: '1.5.1',
      start,
      utcOffset: '+01:00',
      rings: [{ name: 'trial', count: 1 }, { name: 'the rest' }],
      soakHours: [48],
    },
    ...more,
  })
const begun = (id: string) => ({ begun: { [id]: { at: start, before: '1.4.0' } } })
const ringsOf = (c: Campaign, units: HeardUnit[], now: number) => {
  const { plan } = campaignNow(c, ...asAsked(units), now)
  if (!plan.ok) throw new Error(plan.faults[0]?.message)
  return plan.value.rings
}

describe('how an update went', () => {
  const heard = (version: string, at: number) => ({ heard: { version, at: from + at }, presence: 'online' as const })
  test.each<[string, Partial<HeardUnit>, number, string]>([
    ['heard with the new version', heard('1.5.1', 60_000), 90_000, 'ok'],
    ['heard with it before it was begun: that says nothing', heard('1.5.1', -1), 60_000, 'begun'],
    [
      'still away within five minutes',
      { heard: { version: '1.4.0', at: from - 1 }, presence: 'offline' },
      backWithinMs - 1,
      'begun',
    ],
    [
      'not back within five',
      { heard: { version: '1.4.0', at: from - 1 }, presence: 'offline' },
      backWithinMs,
      'failed',
    ],
    ['back with the old version', heard('1.4.0', 120_000), backWithinMs, 'failed'],
    ['nobody listens to it', {}, backWithinMs, 'look'],
  ])('%s', (_, more, after, state) =>
    expect(howItWent(make(begun('u7')), 'u7', lastWordsOf([unit(7, more)]), from + after).state).toBe(state),
  )
  test('what a person said counts before what is heard', () => {
    const said = { u7: { at: start, ok: false, note: 'its relay clicks by itself' } }
    expect(
      howItWent(make({ ...begun('u7'), said }), 'u7', lastWordsOf([unit(7, heard('1.5.1', 1))]), from + 2),
    ).toEqual({
      state: 'failed',
      why: 'its relay clicks by itself',
      by: 'person',
    })
  })
})

test('a canary that fails stops its ring and holds the rest; nobody may begin there', () => {
  const units = [unit(3), unit(7, { heard: { version: '1.4.0', at: from }, presence: 'offline' }), unit(9)]
  const c = make({ ...begun('u7'), policy: { ...make().policy, units: { u7: { canary: true } } } })
  const rings = ringsOf(c, units, from + backWithinMs)
  expect(rings.map((w) => [w.ring, w.status, w.units.map((u) => u.id)])).toEqual([
    ['trial', 'stopped', ['u7']],
    ['the rest', 'held', ['u3', 'u9']],
  ])
  expect(mayBegin(rings, 'u3', from + 1e9)).toMatch(/has stopped/)
})

test('a unit that was updated stays in its ring, and the next ring waits out its soak', () => {
  const done = unit(7, { installed: '1.5.1', heard: { version: '1.5.1', at: from + 60_000 }, presence: 'online' })
  const c = make({ ...begun('u7'), policy: { ...make().policy, units: { u7: { canary: true } } } })
  const rings = ringsOf(c, [unit(3), done], from + 90_000)
  expect(rings.map((w) => [w.ring, w.status])).toEqual([
    ['trial', 'done'],
    ['the rest', 'pending'],
  ])
  expect(mayBegin(rings, 'u3', from + 3_600_000)).toMatch(/at the earliest/)
  expect(mayBegin(rings, 'u3', from + 49 * 3_600_000)).toBe('')
})

test('a unit whose version nobody knows is in no ring, and is named', () => {
  const { unknown, plan } = campaignNow(make(), ...asAsked([unit(3), unit(4, { installed: '' })]), from)
  expect(unknown.map((u) => u.number)).toEqual([4])
  expect(plan.ok && plan.value.rings.flatMap((w) => w.units.map((u) => u.id))).toEqual(['u3'])
})

test('whatever fails, nobody in a later ring may begin before all of the earlier ones are done', () =>
  fc.assert(
    fc.property(fc.array(fc.constantFrom('ok', 'failed', 'waiting'), { minLength: 2, maxLength: 8 }), (went) => {
      const said = Object.fromEntries(
        went.flatMap((w, i) => (w === 'waiting' ? [] : [[`u${i + 1}`, { at: start, ok: w === 'ok', note: '' }]])),
      )
      const c = make({ said })
      const rings = ringsOf(
        c,
        went.map((_, i) => unit(i + 1)),
        from,
      )
      const [first, ...later] = rings
      const allOk = first?.units.every((u) => said[u.id]?.ok) === true
      for (const w of later)
        for (const u of w.units) if (!allOk) expect(mayBegin(rings, u.id, from + 1e12)).not.toBe('')
    }),
  ))

describe('a ring taken to another day', () => {
  const day = (text: string) => Date.parse(`${text}T00:00:00Z`)
  const iso = (ms: number) => new Date(ms).toISOString()
  const units = [1, 2, 3].map((n) => unit(n))
  const moved = (c: Campaign, at: number, to: string): Campaign => ({
    ...c,
    policy: ringMoved(c.policy, ringsOf(c, units, from), at, day(to)),
  })
  test('the first takes all behind it along, at its own time of day', () => {
    const rings = ringsOf(moved(make(), 0, '2026-06-05'), units, from)
    expect(rings.map((w) => iso(w.notBefore))).toEqual(['2026-06-05T10:00:00.000Z', '2026-06-07T10:12:00.000Z'])
  })
  test('a later one waits so long after the one before it; back again is where it was', () => {
    const later = moved(make(), 1, '2026-06-08')
    expect(ringsOf(later, units, from).map((w) => iso(w.notBefore).slice(0, 10))).toEqual(['2026-06-01', '2026-06-08'])
    expect(ringsOf(moved(later, 1, '2026-06-03'), units, from)[1]?.notBefore).toBe(
      ringsOf(make(), units, from)[1]?.notBefore,
    )
  })
  test('never before the one before it has ended, and a place that is no ring moves nothing', () => {
    expect(ringsOf(moved(make(), 1, '2026-05-01'), units, from)[1]?.notBefore).toBe(Date.parse('2026-06-01T10:12:00Z'))
    const { policy } = make()
    expect(ringMoved(policy, ringsOf(make(), units, from), 7, day('2026-06-08'))).toEqual(policy)
  })
})

test('what rests on another is updated after it, and one that is not in it any more holds nobody up', () => {
  const c = make()
  c.policy.units = {
    u1: { role: 'normal', canary: false, held: '', after: ['u3'] },
    u2: { role: 'normal', canary: false, held: '', after: ['gone'] },
  }
  const order = ringsOf(
    c,
    [1, 2, 3].map((n) => unit(n)),
    from,
  ).flatMap((w) => w.units.map((u) => u.id))
  expect(order.indexOf('u3')).toBeLessThan(order.indexOf('u1'))
  expect(order).toHaveLength(3)
})

test('a unit that offers a radio is a bridge unless somebody said otherwise: it goes last and alone', () => {
  const rings = ringsOf(make(), [unit(1, { bridge: true }), unit(2), unit(3)], from)
  expect(rings.at(-1)).toMatchObject({ ring: 'bridges', units: [{ id: 'u1' }] })
})

test('a release that starts again too often begins on nobody else', () => {
  const rings = ringsOf(make(), [unit(1), unit(2)], from)
  expect(mayBegin(rings, rings[0]?.units[0]?.id ?? '', from, { verdict: 'stop', of: '1.5.1' })).toMatch(/too often/)
  expect(mayBegin(rings, rings[0]?.units[0]?.id ?? '', from, { verdict: 'wait', of: '1.5.1' })).toBe('')
})
