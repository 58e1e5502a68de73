import type { KnownFamily } from '../families/families'

/**
 * What of the link was seen on real chips, by whom and when; the virtual chip proves nothing of silicon. The same table stands in
 * docs/link.md: a row is filled in at both.
 */
export interface Tried {
  family: KnownFamily
  what: 'read' | 'write'
  by: string
  day: string
}
export const triedOnReal: readonly Tried[] = []

/** What has to be said before the first of it on a family; null once somebody tried it. */
export function untried(family: KnownFamily, what: Tried['what']): string | null {
  if (triedOnReal.some((t) => t.family === family && t.what === what)) return null
  return what === 'write'
    ? `Writing ${family} has not been tried on a real unit with this version. Have the backup verified.`
    : `Reading ${family} has not been tried on a real unit with this version. Two equal reads prove it.`
}
