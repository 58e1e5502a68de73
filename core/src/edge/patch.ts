/** Differences between two JSON values: small enough to keep for every change, and readable backwards. */

export type Json = null | boolean | number | string | Json[] | { [key: string]: Json }

/** A value that became another (a side that is missing was or is not there), or changes inside an object. */
export type Delta = { was?: Json; is?: Json } | { in: Record<string, Delta> }

const isObject = (x: Json | undefined): x is { [key: string]: Json } =>
  typeof x === 'object' && x !== null && !Array.isArray(x)

export function sameJson(a: Json | undefined, b: Json | undefined): boolean {
  if (a === b) return true
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((x, i) => sameJson(x, b[i]))
  if (!isObject(a) || !isObject(b)) return false
  const keys = Object.keys(a)
  return keys.length === Object.keys(b).length && keys.every((k) => Object.hasOwn(b, k) && sameJson(a[k], b[k]))
}

const leaf = (was: Json | undefined, is: Json | undefined): Delta => ({
  ...(was === undefined ? {} : { was }),
  ...(is === undefined ? {} : { is }),
})

/** Own member of an object: keys such as __proto__ are data. */
const at = (value: { [key: string]: Json }, key: string): Json | undefined =>
  Object.hasOwn(value, key) ? value[key] : undefined

const put = <T>(into: Record<string, T>, key: string, value: T): void => {
  Object.defineProperty(into, key, { value, enumerable: true, configurable: true, writable: true })
}

/** What changed from one value to the other; null when nothing did. Lists count as one value. */
export function deltaOf(before: Json | undefined, after: Json | undefined): Delta | null {
  if (!isObject(before) || !isObject(after)) return sameJson(before, after) ? null : leaf(before, after)
  const inside: Record<string, Delta> = {}
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const delta = deltaOf(at(before, key), at(after, key))
    if (delta) put(inside, key, delta)
  }
  return Object.keys(inside).length > 0 ? { in: inside } : null
}

function walked(value: Json | undefined, delta: Delta, side: 'was' | 'is'): Json | undefined {
  if (!('in' in delta)) return delta[side]
  const out: { [key: string]: Json } = { ...(isObject(value) ? value : {}) }
  for (const [key, inner] of Object.entries(delta.in)) {
    const next = walked(at(out, key), inner, side)
    if (next === undefined) delete out[key]
    else put(out, key, next)
  }
  return out
}

/** The value after a change: `applied(before, deltaOf(before, after))` is `after`. */
export const applied = (before: Json | undefined, delta: Delta | null): Json | undefined =>
  delta ? walked(before, delta, 'is') : before

/** The value before a change: `reverted(after, deltaOf(before, after))` is `before`. */
export const reverted = (after: Json | undefined, delta: Delta | null): Json | undefined =>
  delta ? walked(after, delta, 'was') : after

/** Two changes, one after the other, as one; null when the second takes the first back. */
export function composed(first: Delta | null, second: Delta | null): Delta | null {
  if (!first || !second) return first ?? second
  if (!('in' in first)) return sameOrLeaf(first.was, 'in' in second ? applied(first.is, second) : second.is)
  if (!('in' in second)) return sameOrLeaf(reverted(second.was, first), second.is)
  const inside: Record<string, Delta> = {}
  for (const key of new Set([...Object.keys(first.in), ...Object.keys(second.in)])) {
    const own = (delta: Record<string, Delta>) => (Object.hasOwn(delta, key) ? (delta[key] as Delta) : null)
    const delta = composed(own(first.in), own(second.in))
    if (delta) put(inside, key, delta)
  }
  return Object.keys(inside).length > 0 ? { in: inside } : null
}

const sameOrLeaf = (was: Json | undefined, is: Json | undefined): Delta | null =>
  sameJson(was, is) ? null : leaf(was, is)

export interface Merged<T> {
  data: T
  /** Fields that both sides changed, each to something else. */
  conflicts: (keyof T & string)[]
}

/**
 * Three versions of one record: what both began with, what is here, what was saved meanwhile. A field that only one side
 * changed is taken from it; where both did, `mine` stands in the result and the field is named.
 */
export function mergeFields<T extends object>(base: T, mine: T, theirs: T): Merged<T> {
  const same = (a: unknown, b: unknown) => sameJson(a as Json, b as Json)
  const data = { ...theirs }
  const conflicts: Merged<T>['conflicts'] = []
  for (const key of Object.keys(mine) as (keyof T & string)[]) {
    if (same(mine[key], base[key])) continue
    if (!same(theirs[key], base[key]) && !same(mine[key], theirs[key])) conflicts.push(key)
    data[key] = mine[key]
  }
  return { data, conflicts }
}

/** The fields of `after` that differ from `before`: what a save sends. */
export const changedFields = <T extends object>(before: T, after: T): Partial<T> =>
  Object.fromEntries(
    Object.entries(after).filter(([key, value]) => !sameJson(value as Json, before[key as keyof T] as Json)),
  ) as Partial<T>
