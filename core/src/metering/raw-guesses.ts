import { nth } from '../edge/nth'

/** Which three of the raw values are volts, amperes and watts, at which scale: every guess weighed (brief 04 §1). */

export type LoadKind = 'none' | 'resistive' | 'charger' | 'motor' | 'other'
export interface Snapshot {
  id: string
  /** Milliseconds; null where nobody noted it. */
  at: number | null
  on: boolean
  load: { kind: LoadKind; w: number | null }
  reference: { V: number | null; I: number | null; P: number | null }
  raw: Readonly<Record<string, unknown>>
}
export interface Scaled {
  key: string
  k: number
}
export interface Place {
  nominalV: number
  nominalHz: number
  ratingA: number
}

/** Prior of each power of ten that a raw value is divided by. */
const priors = {
  V: [0.2, 0.6, 0.15, 0.05],
  I: [0, 0, 0.15, 0.75, 0.1],
  P: [0.2, 0.6, 0.15, 0.05],
} as const
export type Quantity = keyof typeof priors
export type Values = Record<Quantity, number>
export type Scales = Record<Quantity, number>
export interface Guess {
  V: Scaled
  I: Scaled
  P: Scaled
  p: number
}

const floors: Values = { V: 0.5, I: 0.005, P: 0.3 }
const pfRange: Record<string, readonly [number, number]> = {
  charger: [0.35, 0.75],
  motor: [0.5, 0.95],
  other: [0.2, 1],
}
const G = (x: number): number => -0.5 * Math.min(x * x, 40)
const step = (k: number): number => 10 ** -k

type State = Pick<Snapshot, 'on' | 'load' | 'reference'>
const carries = (s: State): boolean => s.on && s.load.kind !== 'none'

/** What a snapshot says of one value alone; 0 at most. */
const alone: Record<Quantity, (s: State, x: number, k: number, place: Place) => number> = {
  V: (s, x, k, { nominalV }) => G((x - nominalV) / (0.05 * nominalV)) + asReference('V', s, x, k),
  I: (s, x, k, { ratingA }) => {
    const most = 1.1 * ratingA
    const over = x > most ? G((x / most - 1) / 0.1) : 0
    return asReference('I', s, x, k) + over + (carries(s) ? (x <= 0 ? -8 : 0) : G(x / 0.03))
  },
  P: (s, x, k) => {
    if (!carries(s)) return asReference('P', s, x, k) + G(x)
    const known = s.load.w === null ? 0 : x > 0 ? G(Math.log(x / s.load.w) / 0.15) : -20
    return asReference('P', s, x, k) + (x <= 0 ? -8 : 0) + known
  },
}
function asReference(q: Quantity, s: State, x: number, k: number): number {
  const ref = s.reference[q]
  return ref === null ? 0 : G((x - ref) / Math.sqrt((0.03 * ref) ** 2 + step(k) ** 2 + floors[q] ** 2))
}

/** What a snapshot says of three values together: their power factor; 0 at most. */
function together(s: State, V: number, I: number, P: number, k: Scales): number {
  if (!carries(s) || V <= 0 || I <= 0 || P <= 0) return 0
  const pf = P / (V * I)
  const e = Math.hypot(0.02, (0.5 * step(k.V)) / V, (0.5 * step(k.I)) / I, (0.5 * step(k.P)) / P)
  if (s.load.kind === 'resistive') return G((pf - 1) / e)
  const [low, high] = pfRange[s.load.kind] as readonly [number, number]
  return G(Math.max(0, low - pf, pf - high) / 0.1) + (pf > 1 ? G((pf - 1) / e) : 0)
}

/** What one snapshot says of a triple of values; higher fits better, 0 at most. */
export const fit = (s: State, x: Values, k: Scales, place: Place): number =>
  alone.V(s, x.V, k.V, place) +
  alone.I(s, x.I, k.I, place) +
  alone.P(s, x.P, k.P, place) +
  together(s, x.V, x.I, x.P, k)

export const keyOrder = (a: string, b: string): number => a.length - b.length || (a < b ? -1 : a > b ? 1 : 0)

/** One raw value taken for one quantity at one scale. */
interface Taken extends Scaled {
  /** Place of its key among the keys. */
  order: number
  values: number[]
  /** Its prior and all that the snapshots say of it alone. */
  score: number
}
type Sides = Record<Quantity, Taken[]>

function sidesOf(keys: readonly string[], snapshots: readonly Snapshot[], place: Place): Sides {
  const side = (q: Quantity): Taken[] =>
    keys.flatMap((key, order) =>
      priors[q].flatMap((prior, k) => {
        if (prior === 0) return []
        const values = snapshots.map((s) => Number(s.raw[key]) * step(k))
        const score = snapshots.reduce((sum, s, n) => sum + alone[q](s, nth(values, n), k, place), Math.log(prior))
        return [{ key, k, order, values, score }]
      }),
    )
  return { V: side('V'), I: side('I'), P: side('P') }
}

/** Every guess with a score of at least `floor`, which may rise on the way: nothing that fits together raises what fits alone. */
function each(
  { V, I, P }: Sides,
  snapshots: readonly Snapshot[],
  floor: () => number,
  found: (v: Taken, i: Taken, p: Taken, score: number) => void,
): void {
  const falling = (list: readonly Taken[]) => [...list].sort((a, b) => b.score - a.score)
  const [vs, is, ps] = [falling(V), falling(I), falling(P)]
  const [mostI, mostP] = [nth(is, 0).score, nth(ps, 0).score]
  for (const v of vs) {
    if (v.score + mostI + mostP < floor()) break
    for (const i of is) {
      if (v.score + i.score + mostP < floor()) break
      if (i.order === v.order) continue
      for (const p of ps) {
        if (v.score + i.score + p.score < floor()) break
        if (p.order !== v.order && p.order !== i.order) found(v, i, p, scoreOf(v, i, p, snapshots))
      }
    }
  }
}

function scoreOf(v: Taken, i: Taken, p: Taken, snapshots: readonly Snapshot[]): number {
  const k = { V: v.k, I: i.k, P: p.k }
  let score = v.score + i.score + p.score
  for (const [n, s] of snapshots.entries())
    score += together(s, nth(v.values, n), nth(i.values, n), nth(p.values, n), k)
  return score
}

/** Guesses of less than e to the power of −45 of the best add nothing: millions of them are less than a rounding. */
const counts = 45
/** A probability is compared in steps of 1e-9. */
const rounded = (p: number): number => Math.round(p * 1e9)
const seen = 0.5e-9

type Found = { v: Taken; i: Taken; p: Taken; weight: number }
function foundOrder(a: Found, b: Found, total: number): number {
  const apart = rounded(b.weight / total) - rounded(a.weight / total)
  if (apart !== 0) return apart
  for (const q of ['v', 'i', 'p'] as const) {
    const other = a[q].order - b[q].order || a[q].k - b[q].k
    if (other !== 0) return other
  }
  return 0
}

/** The first `wanted` in their order, without keeping the others. */
function keeper(wanted: number, total: number): { list: Found[]; offer: (f: Found) => void } {
  const list: Found[] = []
  return {
    list,
    offer: (f) => {
      const last = list.at(-1)
      if (list.length >= wanted && last && foundOrder(last, f, total) <= 0) return
      let at = list.length
      while (at > 0 && foundOrder(nth(list, at - 1), f, total) > 0) at--
      list.splice(at, 0, f)
      if (list.length > wanted) list.pop()
    },
  }
}

/** Guesses that nobody would tell apart from nothing, in the order of their keys, until there are enough. */
function fillUp(
  list: Found[],
  wanted: number,
  { V, I, P }: Sides,
  weigh: (v: Taken, i: Taken, p: Taken) => number,
  total: number,
) {
  for (const v of V)
    for (const i of I) {
      if (i.order === v.order) continue
      for (const p of P) {
        if (list.length >= wanted) return
        if (p.order === v.order || p.order === i.order) continue
        const weight = weigh(v, i, p)
        if (rounded(weight / total) === 0) list.push({ v, i, p, weight })
      }
    }
}

export interface Weighed {
  /** The likeliest, in steps of 1e-9; among equals by the order of their keys and scales. */
  first: Guess[]
  /** Of each key: how likely it is what. */
  keys: Record<string, { voltage: number; current: number; power: number }>
}

/**
 * All guesses weighed against each other. Those that cannot count are never made: three million of forty values would take minutes.
 * @param keys at least three, in their order  @param wanted how many are listed
 */
export function weighGuesses(
  keys: readonly string[],
  snapshots: readonly Snapshot[],
  place: Place,
  wanted: number,
): Weighed {
  const sides = sidesOf(keys, snapshots, place)
  let top = Number.NEGATIVE_INFINITY
  each(
    sides,
    snapshots,
    () => top,
    (_v, _i, _p, score) => {
      top = Math.max(top, score)
    },
  )
  const marginals: Weighed['keys'] = Object.fromEntries(keys.map((k) => [k, { voltage: 0, current: 0, power: 0 }]))
  const of = (t: Taken) => marginals[t.key] as Weighed['keys'][string]
  let total = 0
  each(
    sides,
    snapshots,
    () => top - counts,
    (v, i, p, score) => {
      const weight = Math.exp(score - top)
      total += weight
      of(v).voltage += weight
      of(i).current += weight
      of(p).power += weight
    },
  )
  for (const m of Object.values(marginals)) for (const q of ['voltage', 'current', 'power'] as const) m[q] /= total
  const { list, offer } = keeper(wanted, total)
  each(
    sides,
    snapshots,
    () => top + Math.log(total * seen) - 1e-9,
    (v, i, p, score) => {
      const weight = Math.exp(score - top)
      if (rounded(weight / total) > 0) offer({ v, i, p, weight })
    },
  )
  fillUp(list, wanted, sides, (v, i, p) => Math.exp(scoreOf(v, i, p, snapshots) - top), total)
  const plain = ({ key, k }: Taken): Scaled => ({ key, k })
  return {
    first: list.map(({ v, i, p, weight }) => ({ V: plain(v), I: plain(i), P: plain(p), p: weight / total })),
    keys: marginals,
  }
}
