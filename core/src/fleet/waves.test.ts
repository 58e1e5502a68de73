import fc from 'fast-check'
import { computed } from '../testing/like'
import { compareInstalled, days, ringsCalendar, writtenRings } from './waves'
import { fleetWaves, ringsOfKnown } from './waves-request'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const unit = (number: number, more: object = {}) => ({
  id: `LY-${String(number).padStart(2, '0')}`,
  number,
  installed: '1.4.0',
  target: '1.5.1',
  ...more,
})
const policy = {
  start: '2026-06-01T10:00:00Z',
  utcOffset: '+01:00',
  rings: [{ name: 'canary', count: 1 }, { name: 'some', share: 0.34 }, { name: 'all' }],
  soakHours: [48, 24, 24],
  window: { days: ['mon', 'tue', 'wed', 'thu', 'sun'], from: '22:30', to: '00:30' },
  minutesPerUnit: 12,
  maxPerWindow: 8,
  stopRule: { maxFailures: 0 },
  blackouts: [{ from: '2026-06-03T20:00:00Z', to: '2026-06-04T08:00:00Z' }],
}
const request = {
  units: [
    unit(3),
    unit(7, { installed: 'v1.4', canary: true }),
    unit(12, { installed: '1.5.0-rc2' }),
    unit(15, { dependsOn: ['LY-21'] }),
    unit(21, { installed: '1.3.9' }),
    unit(30, { installed: '1.5.1' }),
    unit(40, { role: 'powers-network' }),
    unit(41, { role: 'bridge', installed: '2.0.0', target: '2.1.0' }),
  ],
  policy,
  ics: true,
}
const run = (more: object) => computed(fleetWaves({ ...request, ...more }))
const skipped = (units: object[], more: object = {}) =>
  run({ units, policy: { ...policy, ...more } }).skipped.map((s) => `${s.id} ${s.reason}`)

test('the worked example', () => {
  const { waves, skipped: out, ics } = computed(fleetWaves(request))
  expect(waves.map((w) => [w.ring, w.notBefore, w.units.map((u) => `${u.id} ${u.start}`).join(', ')])).toEqual([
    ['canary', '2026-06-01T10:00:00Z', 'LY-07 2026-06-01T21:30:00Z'],
    ['some', '2026-06-03T21:42:00Z', 'LY-03 2026-06-04T21:30:00Z, LY-12 2026-06-04T21:42:00Z'],
    ['all', '2026-06-05T21:54:00Z', 'LY-21 2026-06-07T21:30:00Z, LY-15 2026-06-07T21:42:00Z'],
    ['bridges', '2026-06-08T21:54:00Z', 'LY-41 2026-06-08T21:54:00Z'],
  ])
  expect(out).toEqual([
    { id: 'LY-30', reason: 'current' },
    { id: 'LY-40', reason: 'manual' },
  ])
  expect(ics?.split('\r\n').slice(0, 10)).toEqual([
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Fresh Coat//waves//EN',
    'BEGIN:VEVENT',
    'UID:canary-20260601T213000Z@fresh-coat.invalid',
    'DTSTAMP:20260601T100000Z',
    'DTSTART:20260601T213000Z',
    'DTEND:20260601T214200Z',
    'SUMMARY:Update ring canary (1 units)',
    'END:VEVENT',
  ])
})

test.each([
  ['1.4', 'v1.4.0', 0],
  ['1.5.0-rc2', '1.5.0', -1],
  ['1.5.0-rc10', '1.5.0-rc2', -1],
  ['1.10.0', '1.9.9', 1],
  ['1.5.0+build7', '1.5', 0],
])('%s against %s', (a, b, sign) => {
  expect(Math.sign(compareInstalled(a, b))).toBe(sign)
  expect(Math.sign(compareInstalled(b, a)) + sign).toBe(0)
})

test('who is held, newer, or waits for one of those is left out, and who waits in a ring of waits', () => {
  const units = [
    unit(1, { held: 'shows a fault' }),
    unit(2, { dependsOn: ['LY-01'] }),
    unit(3, { dependsOn: ['LY-02'] }),
    unit(4, { installed: '1.6.0' }),
    unit(5, { dependsOn: ['LY-06'] }),
    unit(6, { dependsOn: ['LY-05'] }),
    unit(7, { dependsOn: ['LY-08'] }),
    unit(8, { installed: '1.5.1' }),
  ]
  expect(skipped(units)).toEqual([
    'LY-01 held',
    'LY-02 blocked-by:LY-01',
    'LY-03 blocked-by:LY-02',
    'LY-04 newer',
    'LY-05 cycle',
    'LY-06 cycle',
    'LY-08 current',
  ])
  expect(skipped([unit(4, { installed: '1.6.0' })], { allowDowngrade: true })).toEqual([])
})

test('a failed canary holds everything else; a share alone has no limit of its own', () => {
  const results = [{ unit: 'LY-07', ok: false }]
  expect(run({ results }).waves.map((w) => w.status)).toEqual(['stopped', 'held', 'held', 'held'])
  expect(run({ results: [{ unit: 'LY-07', ok: true }] }).waves.map((w) => w.status)).toEqual([
    'done',
    'pending',
    'pending',
    'pending',
  ])
  const onlyShare = { ...policy, stopRule: { maxFailShare: 1 } }
  expect(run({ results, policy: onlyShare }).waves[0]).toMatchObject({ status: 'done', failures: 1 })
})

test('a unit moves to the later ring of what it depends on', () => {
  const rings = [{ name: 'a', count: 1 }, { name: 'b' }]
  const { waves } = run({ units: [unit(1, { dependsOn: ['LY-09'] }), unit(9)], policy: { ...policy, rings } })
  expect(waves.map((w) => [w.ring, w.units.map((u) => u.id)])).toEqual([['b', ['LY-09', 'LY-01']]])
})

test('names of rings are escaped and long lines folded', () => {
  const name = `stage, left; ${'ü'.repeat(60)}`
  const { ics } = run({ policy: { ...policy, rings: [{ name }] } })
  for (const line of ics?.split('\r\n') ?? []) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
  expect(ics?.replaceAll('\r\n ', '')).toContain(`SUMMARY:Update ring stage\\, left\\; ${'ü'.repeat(60)} (5 units)`)
})

test('bad input at its place', () => {
  const bad = (more: object) => fault(fleetWaves({ ...request, ...more }))
  expect(bad({ units: [unit(1, { dependsOn: ['LY-99'] })] })).toBe('input /units/0/dependsOn/0')
  expect(bad({ units: [unit(1), unit(1)] })).toBe('conflict /units/1/id')
  expect(bad({ policy: { ...policy, start: '2026-06-01' } })).toBe('input /policy/start')
  expect(bad({ policy: { ...policy, minutesPerUnit: 121 } })).toBe('range /policy/window')
  expect(bad({ policy: { ...policy, rings: [] } })).toMatch(/^empty \/policy\/rings/)
})

test('whoever can go goes by number: the order is that of asking again and again who is free, cycles are left out', () => {
  /** Asked anew for every unit: slow and plain. */
  const plainly = (units: { id: string; number: number; dependsOn: string[] }[]) => {
    const left = [...units].sort((a, b) => a.number - b.number)
    const order: string[] = []
    for (;;) {
      const next = left.find((u) => !order.includes(u.id) && u.dependsOn.every((d) => order.includes(d)))
      if (!next) return order
      order.push(next.id)
    }
  }
  const some = fc
    .integer({ min: 1, max: 12 })
    .chain((n) =>
      fc.tuple(
        fc.uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: n, maxLength: n }),
        fc.array(fc.array(fc.integer({ min: 0, max: n - 1 }), { maxLength: 2 }), { minLength: n, maxLength: n }),
      ),
    )
  fc.assert(
    fc.property(some, ([numbers, after]) => {
      const units = numbers.map((n, i) =>
        unit(n, { dependsOn: (after[i] ?? []).map((k) => unit(numbers[k] as number).id) }),
      ) as (ReturnType<typeof unit> & { dependsOn: string[] })[]
      const plan = computed(fleetWaves({ units, policy: { start: policy.start, rings: [{ name: 'all' }] } }))
      const order = plainly(units)
      expect(plan.waves.flatMap((w) => w.units.map((u) => u.id))).toEqual(order)
      expect(plan.skipped.filter((s) => s.reason === 'cycle').length).toBe(units.length - order.length)
    }),
  )
})

test('updates never overlap, never leave a window, never come before what they depend on', () =>
  fc.assert(
    fc.property(
      fc.array(fc.record({ minutes: fc.integer({ min: 1, max: 90 }), on: fc.nat(20), canary: fc.boolean() }), {
        minLength: 1,
        maxLength: 14,
      }),
      fc.integer({ min: 1, max: 4 }),
      (given, maxPerWindow) => {
        const units = given.map((g, i) =>
          unit(i + 1, { minutes: g.minutes, canary: g.canary, dependsOn: g.on < i ? [unit(g.on + 1).id] : [] }),
        )
        const { waves } = run({ units, policy: { ...policy, maxPerWindow } })
        const all = waves.flatMap((w) => w.units)
        const perWindow = new Map<string, number>()
        for (const [i, u] of all.entries()) {
          const [from, to] = [Date.parse(u.start), Date.parse(u.end)]
          if (i > 0) expect(from).toBeGreaterThanOrEqual(Date.parse(all[i - 1]?.end ?? ''))
          const opens = new Date(from + 3_600_000 - (22 * 60 + 30) * 60_000)
          const minutesIn = (opens.getTime() % 86_400_000) / 60_000
          expect(minutesIn + (to - from) / 60_000).toBeLessThanOrEqual(120)
          const day = opens.toISOString().slice(0, 10)
          perWindow.set(day, (perWindow.get(day) ?? 0) + 1)
          const own = units.find((x) => x.id === u.id) as { dependsOn?: string[] } | undefined
          for (const d of own?.dependsOn ?? []) expect(all.findIndex((x) => x.id === d)).toBeLessThan(i)
        }
        for (const n of perWindow.values()) expect(n).toBeLessThanOrEqual(maxPerWindow)
      },
    ),
    { numRuns: 60 },
  ))

test('no update could have begun a minute earlier: windows, their caps and blackouts looked at minute by minute', () => {
  const minute = 60_000
  const day = 1440
  const start = Date.parse('2026-06-01T00:00:00Z')
  const some = fc.record({
    minutes: fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 8 }),
    begins: fc.nat(2 * day),
    window: fc.option(
      fc.record({
        days: fc.subarray([...days], { minLength: 5 }),
        from: fc.nat(day - 1),
        length: fc.integer({ min: 60, max: day }),
      }),
    ),
    cap: fc.option(fc.integer({ min: 1, max: 3 })),
    blackouts: fc.array(fc.tuple(fc.nat(4 * day), fc.integer({ min: 1, max: 300 })), { maxLength: 3 }),
  })
  const clock = (m: number) => `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`
  const stamp = (m: number) => new Date(start + m * minute).toISOString()
  fc.assert(
    fc.property(some, ({ minutes, begins, window, cap, blackouts }) => {
      const used = new Map<number, number>()
      /** The window that an update lies in, as the minute it opens at; null where it lies in none with room. */
      const windowOf = (at: number, length: number): number | null => {
        const opened = window ? [-1, 0].map((d) => (Math.floor(at / day) + d) * day + window.from) : [0]
        const fits = (w: number) =>
          !window ||
          // 1 June 2026 is a Monday.
          (window.days.includes(days[(Math.floor(w / day) + 8) % 7] as never) &&
            at >= w &&
            at + length <= w + window.length)
        return opened.find((w) => fits(w) && (used.get(w) ?? 0) < (cap ?? Number.POSITIVE_INFINITY)) ?? null
      }
      const free = (at: number, length: number) => blackouts.every(([b, for_]) => at >= b + for_ || at + length <= b)
      let cursor = begins
      const wanted = minutes.map((length) => {
        for (let at = cursor; at < cursor + 60 * day; at++) {
          const w = free(at, length) ? windowOf(at, length) : null
          if (w === null) continue
          used.set(w, (used.get(w) ?? 0) + 1)
          cursor = at + length
          return at
        }
        return null
      })
      const plan = fleetWaves({
        units: minutes.map((m, i) => unit(i + 1, { minutes: m })),
        policy: {
          start: stamp(begins),
          rings: [{ name: 'all' }],
          minutesPerUnit: 5,
          maxPerWindow: cap,
          window: window && {
            days: window.days,
            from: clock(window.from),
            to: clock((window.from + window.length) % day),
          },
          blackouts: blackouts.map(([b, for_]) => ({ from: stamp(b), to: stamp(b + for_) })),
        },
      })
      // Without a window there is one that never ends: a cap on it may leave somebody without a place.
      if (wanted.includes(null)) expect(plan.ok).toBe(false)
      else
        expect(computed(plan).waves.flatMap((w) => w.units.map((u) => Date.parse(u.start)))).toEqual(
          wanted.map((at) => start + (at as number) * minute),
        )
    }),
    { numRuns: 150 },
  )
})

test('the app’s own units go the same way as those of a request, whatever the policy and whoever waits for whom', () => {
  const roles = ['normal', 'bridge', 'powers-network', 'powers-hub'] as const
  const versions = ['1.4.0', 'v1.4', '1.5.0-rc2', '1.5.1', '2.0']
  const any = fc.record({
    units: fc.array(
      fc.record({
        installed: fc.constantFrom(...versions),
        role: fc.constantFrom(...roles),
        canary: fc.boolean(),
        held: fc.boolean(),
        waits: fc.array(fc.nat(30), { maxLength: 2 }),
        ok: fc.constantFrom(true, false, null),
      }),
      { maxLength: 12 },
    ),
    maxPerWindow: fc.option(fc.integer({ min: 1, max: 3 })),
    share: fc.double({ min: 0, max: 1, noNaN: true }),
    windowed: fc.boolean(),
  })
  fc.assert(
    fc.property(any, ({ units, maxPerWindow, share, windowed }) => {
      const known = units.map(({ waits, ok: _, ...u }, i) => ({
        ...u,
        id: `u${i}`,
        number: i + 1,
        target: '1.5.1',
        minutes: null,
        dependsOn: waits.flatMap((w) => (w < units.length && w !== i ? [`u${w}`] : [])),
      }))
      const went = units.flatMap(({ ok }, i) => (ok === null ? [] : [{ unit: `u${i}`, ok }]))
      const given = {
        ...policy,
        maxPerWindow,
        window: windowed ? policy.window : null,
        rings: [{ name: 'a', share }, { name: 'b', count: 2 }, { name: 'c' }],
      }
      const own = ringsOfKnown(known, given, new Map(went.map((w) => [w.unit, w.ok])))
      const asked = fleetWaves({ units: known, policy: given, results: went, ics: true })
      if (!own.ok || !asked.ok) {
        expect(own).toEqual(asked)
        return
      }
      const ics = ringsCalendar(own.value.rings, Date.parse(policy.start))
      expect({ ...writtenRings(own.value), ics }).toEqual(asked.value)
    }),
  )
})

test.each([
  ['two rings of one name', { rings: [{ name: 'a' }, { name: 'a' }] }, 'conflict /policy/rings/1/name'],
  [
    'a blackout that ends before it begins',
    { blackouts: [{ from: '2026-06-04T08:00:00Z', to: '2026-06-03T08:00:00Z' }] },
    'range /policy/blackouts/0/to',
  ],
  ['a time without an offset', { start: '2026-06-01T10:00:00' }, 'input /policy/start'],
])('the policy of the app’s own units is read with suspicion too: %s', (_, wrong, said) => {
  expect(fault(ringsOfKnown([], { ...policy, ...wrong }, new Map()))).toBe(said)
})

test('more units of one’s own than a request may bring are planned, each once', () => {
  const many = Array.from({ length: 6000 }, (_, i) => ({
    ...{ id: `u${i}`, number: i, installed: '1.4.0', target: '1.5.1', role: 'normal' as const },
    ...{ canary: false, held: false, dependsOn: i % 2 ? [`u${i - 1}`] : [], minutes: null },
  }))
  const { rings } = computed(
    ringsOfKnown(many, { ...policy, window: null, blackouts: [], maxPerWindow: null }, new Map()),
  )
  const ids = rings.flatMap((r) => r.units.map((u) => u.id))
  expect([ids.length, new Set(ids).size]).toEqual([6000, 6000])
})

test('moments are written to the second, across days, years and before the first of them', () => {
  fc.assert(
    fc.property(fc.integer({ min: -3e12, max: 9e12 }), fc.integer({ min: 1, max: 3000 }), (at, minutes) => {
      const start = new Date(at).toISOString()
      const { waves } = computed(
        fleetWaves({
          units: [unit(1), unit(2)],
          policy: { start, rings: [{ name: 'all' }], minutesPerUnit: minutes },
        }),
      )
      const to = (ms: number) => new Date(Math.floor(ms / 1000) * 1000).toISOString().replace('.000', '')
      expect(waves[0]?.units.map((u) => [u.start, u.end])).toEqual(
        [0, 1].map((i) => [to(at + i * minutes * 60_000), to(at + (i + 1) * minutes * 60_000)]),
      )
    }),
  )
})
