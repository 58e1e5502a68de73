import type { Outcome } from '../edge/fault'

/**
 * Compares a result with a worked example that shows only some fields: numbers agree within `tolerance`, and a list
 * that ends in "..." goes on.
 */
export function expectLike(actual: unknown, expected: unknown, tolerance = 0.001, path = ''): void {
  if (typeof expected === 'number') {
    if (
      typeof actual !== 'number' ||
      !(Math.abs(actual - expected) <= tolerance * Math.max(1, Math.abs(expected) / 1000))
    )
      throw new Error(`${path}: expected about ${expected}, got ${String(actual)}`)
    return
  }
  if (Array.isArray(expected)) {
    if (!Array.isArray(actual)) throw new Error(`${path}: expected a list, got ${JSON.stringify(actual)}`)
    const open = expected.at(-1) === '...'
    const items = open ? expected.slice(0, -1) : expected
    if (!open && actual.length !== items.length)
      throw new Error(`${path}: expected ${items.length} items, got ${actual.length}: ${JSON.stringify(actual)}`)
    items.forEach((item, i) => {
      expectLike(actual[i], item, tolerance, `${path}/${i}`)
    })
    return
  }
  if (expected !== null && typeof expected === 'object') {
    if (actual === null || typeof actual !== 'object')
      throw new Error(`${path}: expected an object, got ${String(actual)}`)
    for (const [key, value] of Object.entries(expected))
      expectLike((actual as Record<string, unknown>)[key], value, tolerance, `${path}/${key}`)
    return
  }
  if (actual !== expected)
    throw new Error(`${path}: expected ${JSON.stringify(expected)}, got ${JSON.stringify(actual)}`)
}

/** The value of an outcome that must be ok. */
export function computed<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(`refused: ${JSON.stringify(outcome.faults)}`)
  return outcome.value
}

/** Code and place of the first fault of an outcome that must be refused. */
export function refusalOf<T>(outcome: Outcome<T>): [string, string] {
  if (outcome.ok) throw new Error('expected a refusal')
  const [first] = outcome.faults
  return [first?.code ?? '', first?.path ?? '']
}
