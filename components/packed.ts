import { useMemo } from 'react'

/**
 * What a page gives its controls, as one text: as objects the framework walks through all of it on its way out, and again on its way
 * in, which costs more than the rest of the way. What is not there (`undefined`) does not arrive either, as over the wire.
 */
export type Packed<T> = string & { readonly packed?: T }

export const pack = <T>(value: T): Packed<T> => JSON.stringify(value)

export function usePacked<T>(packed: Packed<T>): T {
  return useMemo(() => JSON.parse(packed) as T, [packed])
}
