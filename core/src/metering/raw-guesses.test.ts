import fc from 'fast-check'
import { fit, type Guess, keyOrder, type Place, type Snapshot, weighGuesses } from './raw-guesses'

const place: Place = { nominalV: 230, nominalHz: 50, ratingA: 16 }
const priors = { V: [0.2, 0.6, 0.15, 0.05], I: [0, 0, 0.15, 0.75, 0.1], P: [0.2, 0.6, 0.15, 0.05] }

/** Every triple at every scale, one by one: what brief 04 §1 says, as slowly as it says it. */
function oneByOne(keys: readonly string[], snapshots: readonly Snapshot[]): Guess[] {
  const scales = (q: keyof typeof priors) => priors[q].flatMap((p, k) => (p > 0 ? [{ k, p }] : []))
  const all: (Guess & { score: number })[] = []
  for (const v of keys)
    for (const i of keys)
      for (const p of keys) {
        if (v === i || v === p || i === p) continue
        for (const kv of scales('V'))
          for (const ki of scales('I'))
            for (const kp of scales('P')) {
              const k = { V: kv.k, I: ki.k, P: kp.k }
              let score = Math.log(kv.p * ki.p * kp.p)
              for (const s of snapshots) {
                const x = (key: string, n: number) => Number(s.raw[key]) * 10 ** -n
                score += fit(s, { V: x(v, kv.k), I: x(i, ki.k), P: x(p, kp.k) }, k, place)
              }
              all.push({ V: { key: v, k: kv.k }, I: { key: i, k: ki.k }, P: { key: p, k: kp.k }, p: 0, score })
            }
      }
  const top = Math.max(...all.map((g) => g.score))
  const total = all.reduce((sum, g) => sum + Math.exp(g.score - top), 0)
  const weighed = all.map(({ score, ...g }) => ({ ...g, p: Math.exp(score - top) / total }))
  const round = (g: Guess) => Math.round(g.p * 1e9)
  return weighed.sort((a, b) => {
    if (round(a) !== round(b)) return round(b) - round(a)
    for (const q of ['V', 'I', 'P'] as const) {
      const apart = keyOrder(a[q].key, b[q].key) || a[q].k - b[q].k
      if (apart !== 0) return apart
    }
    return 0
  })
}

const raw = fc.oneof(
  fc.constant(0),
  fc.constantFrom(2301, 231, 23_000),
  fc.integer({ min: 0, max: 9000 }),
  fc.integer({ min: -50, max: 60_000 }),
)
const keys = ['9', '17', '18', '104']
const snapshot = fc
  .record({
    on: fc.boolean(),
    kind: fc.constantFrom(
      'none' as const,
      'resistive' as const,
      'charger' as const,
      'motor' as const,
      'other' as const,
    ),
    w: fc.option(fc.integer({ min: 1, max: 3000 })),
    reference: fc.record({
      V: fc.option(fc.integer({ min: 200, max: 250 })),
      I: fc.option(fc.integer({ min: 0, max: 16 })),
      P: fc.option(fc.integer({ min: 0, max: 3000 })),
    }),
    values: fc.tuple(raw, raw, raw, raw),
  })
  .map(
    ({ on, kind, w, reference, values }): Omit<Snapshot, 'id'> => ({
      at: null,
      on,
      load: { kind, w: kind === 'none' ? null : w },
      reference,
      raw: Object.fromEntries(keys.map((key, i) => [key, values[i]])),
    }),
  )

test('leaving out what cannot count changes nothing: likeliest, order, probabilities and sums are those of every guess', () =>
  fc.assert(
    fc.property(
      fc.array(snapshot, { minLength: 1, maxLength: 4 }),
      fc.integer({ min: 1, max: 60 }),
      (given, wanted) => {
        const snapshots = given.map((s, i) => ({ ...s, id: `s${i}` }))
        const slow = oneByOne(keys, snapshots)
        const { first, keys: sums } = weighGuesses(keys, snapshots, place, wanted)
        expect(first).toHaveLength(Math.min(wanted, slow.length))
        for (const [n, g] of first.entries()) expect(Math.abs(g.p - (slow[n]?.p ?? Number.NaN))).toBeLessThan(2e-9)
        const same = (g: Guess | undefined) => g && [g.V, g.I, g.P]
        // Where two stand within a rounding of each other, sums in another order may turn them round.
        const clear = (n: number) =>
          [n - 1, n, n + 1].every((m) => {
            const [a, b] = [slow[m], slow[m + 1]]
            return !a || !b || Math.round(a.p * 1e9) === Math.round(b.p * 1e9) || Math.abs(a.p - b.p) > 1e-8
          })
        for (const [n, g] of first.entries())
          if (clear(n) && (slow[n]?.p ?? 0) > 1e-6) expect(same(g)).toEqual(same(slow[n]))
        for (const key of keys) {
          const sum = (q: 'V' | 'I' | 'P') => slow.filter((g) => g[q].key === key).reduce((n, g) => n + g.p, 0)
          expect(sums[key]?.voltage).toBeCloseTo(sum('V'), 9)
          expect(sums[key]?.current).toBeCloseTo(sum('I'), 9)
          expect(sums[key]?.power).toBeCloseTo(sum('P'), 9)
        }
      },
    ),
    { numRuns: 60 },
  ))

test('three values are enough, and every one of them is used', () => {
  const one: Snapshot = {
    id: 's',
    at: null,
    on: true,
    load: { kind: 'resistive', w: 1000 },
    reference: { V: null, I: null, P: null },
    raw: { a: 2300, b: 4348, c: 10_000 },
  }
  const [best] = weighGuesses(['a', 'b', 'c'], [one], place, 1).first
  expect(best).toMatchObject({ V: { key: 'a', k: 1 }, I: { key: 'b', k: 3 }, P: { key: 'c', k: 1 } })
})
