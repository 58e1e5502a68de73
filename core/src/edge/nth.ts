/**
 * The entry at `i` of a list that its caller knows to reach that far. What is not there is a fault of the program and is said
 * at once, before an `undefined` is reckoned with. Loops over bytes read their arrays themselves.
 */
export function nth<T>(list: { readonly [i: number]: T; readonly length: number }, i: number): T {
  if (!(i >= 0 && i < list.length)) throw new RangeError(`There is no entry ${i} in a list of ${list.length}.`)
  return list[i] as T
}

/** The last entry of a list that is not empty. */
export const lastOf = <T>(list: { readonly [i: number]: T; readonly length: number }): T => nth(list, list.length - 1)
