import { computed } from '../testing/like'
import { meterMap } from './raw-map'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const snapshots = [
  {
    id: 'a',
    at: '2026-05-12T18:00:00Z',
    switch: 'off',
    load: { kind: 'none', w: null },
    raw: { 1: false, 2: 0, 4: 0, 5: 0, 6: 2314, 7: 118 },
  },
  {
    id: 'b',
    at: '2026-05-12T18:05:00Z',
    switch: 'on',
    load: { kind: 'charger', w: null },
    raw: { 1: true, 2: 0, 4: 98, 5: 101, 6: 2309, 7: 118 },
  },
  {
    id: 'c',
    at: '2026-05-12T18:10:00Z',
    switch: 'on',
    load: { kind: 'resistive', w: 120 },
    raw: { 1: true, 2: 0, 4: 512, 5: 1179, 6: 2303, 7: 119 },
  },
] as const
const mains = { nominalV: 230, nominalHz: 50 }
const after = (n: number) => computed(meterMap({ mains, ratingA: 10, snapshots: snapshots.slice(0, n) }))

describe('the worked example', () => {
  test('after a: nothing is settled, and a heater would tell most', () => {
    const { best, settled, next } = after(1)
    expect(best.voltage).toEqual({ key: '6', k: 1 })
    expect(best.probability).toBeCloseTo(0.0676496, 3)
    expect([settled, next]).toEqual([false, 'resistive-1000'])
  })
  test('after b: power and current stay a toss: a charger never parts them', () => {
    const { ranked, next } = after(2)
    expect(ranked.slice(0, 2).map((t) => [t.current.key, t.power.key, Math.round(t.probability * 1000)])).toEqual([
      ['4', '5', 433],
      ['5', '4', 433],
    ])
    expect(next).toBe('resistive-1000')
  })
  test('after c: settled, with the rest of the keys', () => {
    const { best, settled, next, others, explain } = after(3)
    expect(best).toMatchObject({ voltage: { key: '6', k: 1 }, current: { key: '4', k: 3 }, power: { key: '5', k: 1 } })
    expect(best.probability).toBeCloseTo(1, 2)
    expect([settled, next]).toEqual([true, null])
    expect(explain[1]?.pf).toBeCloseTo(0.446346, 5)
    expect(explain[2]?.pf).toBeCloseTo(0.999885, 5)
    expect(others).toEqual({
      1: { quantity: 'switch', k: null, confidence: 'high' },
      2: { quantity: 'countdown', k: 0, confidence: 'low' },
      7: { quantity: 'energy', k: 3, confidence: 'medium' },
    })
  })
})

test.each([[[0, 1, 2]], [[2, 0, 1]], [[1, 2, 0]], [[2, 1, 0]]])(
  'other names of the keys, in the order %j, change nothing but the names',
  (order) => {
    const renamed = order.map((i) => {
      const s = snapshots[i] as (typeof snapshots)[number]
      return { ...s, raw: Object.fromEntries(Object.entries(s.raw).map(([k, v]) => [`dp${k}`, v])) }
    })
    const { best } = computed(meterMap({ mains, ratingA: 10, snapshots: renamed }))
    expect([best.voltage.key, best.current.key, best.power.key]).toEqual(['dp6', 'dp4', 'dp5'])
  },
)

test('a load above the rating is never suggested', () => {
  const { nextRanked } = computed(meterMap({ mains, ratingA: 2, snapshots: snapshots.slice(0, 2) }))
  expect(nextRanked.map((n) => n.id)).not.toContain('resistive-1000')
  expect(computed(meterMap({ mains, snapshots: snapshots.slice(0, 2), available: [] })).next).toBeNull()
})

test('a value that is no number everywhere is ignored, and one that falls with the clock counts down', () => {
  const raw = [
    { t: 300, text: 'x' },
    { t: 1, text: 5 },
    { t: 1, text: 'x' },
  ]
  const more = snapshots.map((s, i) => ({
    ...s,
    raw: { ...s.raw, 9: i === 0 ? 600 : 600 - i * 300 + 1, 10: raw[i]?.text },
  }))
  const { others, ignored } = computed(meterMap({ mains, ratingA: 10, snapshots: more }))
  expect(others['9']).toEqual({ quantity: 'countdown', k: 0, confidence: 'high' })
  expect(ignored).toEqual(['10'])
})

test('bad input at its place', () => {
  expect(fault(meterMap({ mains, snapshots: [] }))).toMatch(/^empty \/snapshots/)
  expect(fault(meterMap({ mains, snapshots: [{ ...snapshots[0], raw: { 1: 1, 2: 2 } }] }))).toBe('empty /snapshots')
  expect(fault(meterMap({ mains, snapshots: [{ ...snapshots[0], load: { kind: 'oven', w: null } }] }))).toBe(
    'input /snapshots/0/load/kind',
  )
})
