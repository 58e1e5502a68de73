/**
 * Remembers what a pure function gave for an object that is never changed: assessing thirty units asks for the same
 * identification some ten times each.
 */
export function remembered<Key extends object, Value>(compute: (key: Key) => Value): (key: Key) => Value {
  const known = new WeakMap<Key, Value>()
  return (key) => {
    if (!known.has(key)) known.set(key, compute(key))
    return known.get(key) as Value
  }
}
