import type { z } from 'zod'

/** What is wrong with an input, and where: `path` is a JSON Pointer (RFC 6901), '' for the whole. */
export interface Fault {
  code: string
  path: string
  message: string
}

/**
 * Which code a plain shape fault gets. The briefs differ: identification and wiring tell a missing field from a wrong
 * type, pins call both `shape`, metering and network call both `input`.
 */
export interface FaultCodes {
  missing: string
  type: string
  range: string
  empty: string
}

export const strictCodes: FaultCodes = { missing: 'missing', type: 'type', range: 'range', empty: 'empty' }
export const shapeCodes: FaultCodes = { missing: 'shape', type: 'shape', range: 'range', empty: 'empty' }
export const inputCodes: FaultCodes = { missing: 'input', type: 'input', range: 'range', empty: 'empty' }

export type Parsed<T> = { ok: true; value: T } | { ok: false; faults: Fault[] }

type Path = readonly PropertyKey[]

export const pointer = (path: Path): string =>
  path.map((key) => `/${String(key).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')

const valueAt = (input: unknown, path: Path): unknown =>
  path.reduce<unknown>(
    (here, key) =>
      here !== null && typeof here === 'object' ? (here as Record<PropertyKey, unknown>)[key] : undefined,
    input,
  )

/** Where each field stands in an object, looked up once per object: an input of ten thousand faults asks as often. */
type Places = Map<object, Map<string, number>>

function placeIn(here: object, key: PropertyKey, known: Places): number | undefined {
  if (Array.isArray(here)) return typeof key === 'number' && key < here.length ? key : undefined
  let places = known.get(here)
  if (!places) {
    places = new Map(Object.keys(here).map((k, i) => [k, i]))
    known.set(here, places)
  }
  return places.get(String(key))
}

/** Position of a path in the written order of the input, so that the first fault reported is the first one read. */
function readingOrder(input: unknown, path: Path, known: Places): number[] {
  const order: number[] = []
  let here = input
  for (const key of path) {
    if (here === null || typeof here !== 'object') break
    // A missing field is noticed when its object ends, so it comes after every field that is there.
    order.push(placeIn(here, key, known) ?? Number.MAX_SAFE_INTEGER)
    here = (here as Record<PropertyKey, unknown>)[key]
  }
  return order
}

function compareOrder(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < Math.max(a.length, b.length); i++) {
    const difference = (a[i] ?? -1) - (b[i] ?? -1)
    if (difference !== 0) return difference
  }
  return 0
}

function faultOf(
  issue: z.core.$ZodIssue,
  input: unknown,
  codes: FaultCodes,
  known: Places,
): Fault & { order: number[] } {
  const raw = issue as z.core.$ZodIssue & { params?: { code?: string }; keys?: string[] }
  const path = [...issue.path, ...(issue.code === 'unrecognized_keys' && raw.keys?.[0] ? [raw.keys[0]] : [])]
  const value = valueAt(input, path)
  const name = path.length ? `The field ${pointer(path)}` : 'The input'
  const order = readingOrder(input, path, known)
  const own = raw.params?.code
  if (own) return { code: own, path: pointer(path), message: issue.message, order }
  if (issue.code === 'unrecognized_keys')
    return { code: codes.type, path: pointer(path), message: `${name} isn't known here.`, order }
  if (value === undefined) return { code: codes.missing, path: pointer(path), message: `${name} is missing.`, order }
  if (typeof value === 'number' && !Number.isFinite(value))
    return { code: codes.range, path: pointer(path), message: `${name} must be a finite number.`, order }
  if (issue.code === 'too_small' || issue.code === 'too_big') {
    const emptyList =
      issue.code === 'too_small' && (Array.isArray(value) || value === '') && (value as unknown[]).length === 0
    return {
      code: emptyList ? codes.empty : codes.range,
      path: pointer(path),
      message: emptyList ? `${name} is empty.` : `${name} is out of range: ${issue.message}.`,
      order,
    }
  }
  return { code: codes.type, path: pointer(path), message: `${name} has the wrong type: ${issue.message}.`, order }
}

/** Parses `input`, naming every fault in the order the input is written. Never half a result. */
export function parseInput<S extends z.ZodType>(schema: S, input: unknown, codes: FaultCodes): Parsed<z.output<S>> {
  const parsed = schema.safeParse(input)
  if (parsed.success) return { ok: true, value: parsed.data }
  const known: Places = new Map()
  const faults = parsed.error.issues
    .map((issue) => faultOf(issue, input, codes, known))
    .sort((a, b) => compareOrder(a.order, b.order))
    .map(({ code, path, message }) => ({ code, path, message }))
  return { ok: false, faults }
}

/** Adds a fault with a code of its own inside a Zod check. */
export function refuse(
  context: {
    addIssue: (issue: { code: 'custom'; path: PropertyKey[]; message: string; params: { code: string } }) => void
  },
  code: string,
  path: PropertyKey[],
  message: string,
): void {
  context.addIssue({ code: 'custom', path, message, params: { code } })
}

/** A result of a computation that may refuse its input. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; faults: Fault[] }

export const refusal = (code: string, path: string, message: string): { ok: false; faults: Fault[] } => ({
  ok: false,
  faults: [{ code, path, message }],
})
