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

/** What has to be said before the first write on a family; null once somebody tried it. */
export const untriedWrite = (family: KnownFamily): string | null =>
  triedOnReal.some((t) => t.family === family && t.what === 'write')
    ? null
    : `Writing ${family} has not been tried on a real unit with this version. Have the backup verified.`
