import fc from 'fast-check'
import { asAsked, type HeardUnit, campaignUnit as unit } from '../testing/a-campaign'
import { backWithinMs, type Campaign, campaignKept, campaignNow, mayBegin } from './campaign'
import { type BoardShown, boardOf } from './campaign-board'

const start = '2026-06-01T10:00:00Z'
const from = Date.parse(start)
const campaign = (more: object = {}, policy: object = {}): Campaign =>
  campaignKept.parse({
    policy: {
      firmware: 'Plainsong',
      version: '1.5.1',
      start,
      utcOffset: 'Z',
      rings: [{ name: 'Trial', count: 1 }, { name: 'The rest' }],
      soakHours: [48],
      ...policy,
    },
    ...more,
  })
const units = (n: number) => Array.from({ length: n }, (_, i) => unit(i + 1))
const shown: BoardShown = { inRing: 3, inList: 4, inWords: 2 }
const board = (c: Campaign, of: HeardUnit[], now = from, chosen: number | null = null, most = shown) =>
  boardOf(c, campaignNow(c, ...asAsked(of), now), now, null, chosen, most)

test('of a large ring the first units are there, and how many there are', () => {
  const { rings, all, list } = board(campaign(), units(9))
  expect(rings.map((r) => [r.ring, r.all, r.units.map((u) => u.number)])).toEqual([
    ['Trial', 1, [1]],
    ['The rest', 8, [2, 3, 4]],
  ])
  expect([all, list.map((u) => u.number)]).toEqual([9, [1, 2, 3, 4]])
})

test('of many, those whose turn is over come last in the list to choose from', () => {
  const said = { u1: { at: start, ok: true, note: '' }, u2: { at: start, ok: false, note: 'it hums' } }
  expect(board(campaign({ said }), units(9)).list.map((u) => u.number)).toEqual([2, 3, 4, 5])
  // A few stand as they go.
  expect(board(campaign({ said }), units(4)).list.map((u) => u.number)).toEqual([1, 2, 3, 4])
})

test('a ring of which one was begun stays where it is; one that is not begun can be moved', () => {
  const begun = { u1: { at: start, before: '1.4.0' } }
  expect(board(campaign({ begun }), units(3)).rings.map((r) => r.fixed)).toEqual([true, false])
  expect(board(campaign(), units(3)).rings.map((r) => r.fixed)).toEqual([false, false])
})

test('those left out are counted by why; reasons that name another unit are one', () => {
  const c = campaign(
    {},
    {
      units: {
        u1: { held: 'its lamp is borrowed' },
        u2: { after: ['u1'] },
        u3: { after: ['u2'] },
      },
    },
  )
  const { skipped, unknown } = board(c, [...units(4), unit(5, { installed: '1.5.1' }), unit(6, { installed: '' })])
  expect(skipped).toEqual([
    { why: 'held', all: 1, numbers: [1] },
    { why: 'blocked-by', all: 2, numbers: [2, 3] },
    { why: 'current', all: 1, numbers: [5] },
  ])
  expect(unknown).toEqual({ all: 1, numbers: [6] })
})

test('the one that is looked at is there wherever it stands: beyond what is drawn, and in no ring', () => {
  expect(board(campaign(), units(9), from, 8).chosen).toMatchObject({ number: 8, why: 'The ring Trial comes first.' })
  const current = board(campaign(), [...units(3), unit(4, { installed: '1.5.1' })], from, 4).chosen
  expect(current).toMatchObject({ number: 4, start: null, why: 'It is in no ring.' })
  expect(board(campaign(), units(3), from, 99).chosen).toBeNull()
})

test('the clock alone makes something else of it when a begun one has to be back, and when a ring may begin', () => {
  const begun = { u1: { at: start, before: '1.4.0' } }
  expect(board(campaign({ begun }), units(3), from + 1).until).toBe(from + backWithinMs)
  expect(board(campaign(), units(3), from - 1).until).toBe(from)
  const said = Object.fromEntries(units(3).map((u) => [u.id, { at: start, ok: true, note: '' }]))
  expect(board(campaign({ said }), units(3), from + 1e12).until).toBeNull()
})

test('a policy that cannot be planned is said, and draws nothing', () => {
  const window = { days: ['mon'], from: '22:00', to: '22:05' }
  const { fault, rings, all } = board(campaign({}, { window, minutesPerUnit: 60 }), units(2))
  expect(fault).toMatch(/no slot/)
  expect([rings, all]).toEqual([[], 0])
})

test('whatever happened, each unit on the board stands as the plan has it, and may begin exactly when the plan says so', () =>
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('ok', 'failed', 'begun', 'waiting', 'current', 'unknown'), {
        minLength: 1,
        maxLength: 12,
      }),
      fc.integer({ min: -1, max: 100 }),
      (went, hours) => {
        const of = went.map((w, i) =>
          unit(i + 1, w === 'current' ? { installed: '1.5.1' } : w === 'unknown' ? { installed: '' } : {}),
        )
        const pick = (is: (w: string) => boolean, to: (w: string) => object) =>
          Object.fromEntries(went.flatMap((w, i) => (is(w) ? [[`u${i + 1}`, to(w)]] : [])))
        const c = campaign({
          said: pick(
            (w) => w === 'ok' || w === 'failed',
            (w) => ({ at: start, ok: w === 'ok', note: '' }),
          ),
          begun: pick(
            (w) => w === 'begun',
            () => ({ at: start, before: '1.4.0' }),
          ),
        })
        const now = from + hours * 3_600_000
        const { plan, went: how } = campaignNow(c, ...asAsked(of), now)
        const all = board(c, of, now, null, { inRing: 99, inList: 99, inWords: 99 })
        const rings = plan.ok ? plan.value.rings : []
        expect(all.rings.map((r) => r.units.map((u) => u.id))).toEqual(rings.map((r) => r.units.map((u) => u.id)))
        for (const ring of all.rings)
          for (const u of ring.units) {
            expect(u.how).toEqual(how.get(u.id) ?? { state: 'waiting' })
            expect(ring.why).toBe(mayBegin(rings, u.id, now))
          }
        const counted = all.all + all.unknown.all + all.skipped.reduce((n, s) => n + s.all, 0)
        expect(counted).toBe(of.length)
        expect(all.until === null || all.until > now).toBe(true)
      },
    ),
  ))
