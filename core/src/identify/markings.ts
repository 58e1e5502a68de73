import { type Family, families } from '../families/families'

/** What this workshop found for a printed text before: counts per family, from its units and from what people entered. */

/** The same print, however it was typed: upper case, letters and digits only. */
export const markingKey = (text: string): string => text.toUpperCase().replaceAll(/[^A-Z0-9]/g, '')

export type FamilyCounts = Partial<Record<Family, number>>

export interface Marking {
  key: string
  /** As it was first read. */
  text: string
  /** Units whose family was established, without the ones entered by hand. */
  units: { number: number; family: Family }[]
  /** Entered by hand: finds of before, or of friends. */
  own: FamilyCounts
}

/** Counts of a marking, leaving out one unit: nobody is their own evidence. */
export function countsOf(marking: Marking, without: number | null = null): FamilyCounts {
  const counts: FamilyCounts = { ...marking.own }
  for (const { number, family } of marking.units) if (number !== without) counts[family] = (counts[family] ?? 0) + 1
  return counts
}

/** Joins what units recorded with what was entered by hand. */
export function gatherMarkings(
  read: readonly { number: number; printed: string; family: Family | null }[],
  own: readonly { text: string; counts: FamilyCounts }[],
): Marking[] {
  const map = new Map<string, Marking>()
  const of = (text: string) => {
    const key = markingKey(text)
    const found = map.get(key) ?? { key, text: text.trim(), units: [], own: {} }
    map.set(key, found)
    return found
  }
  for (const { text, counts } of own) if (markingKey(text)) of(text).own = counts
  for (const { number, printed, family } of read)
    if (markingKey(printed)) {
      const marking = of(printed)
      if (family) marking.units.push({ number, family })
    }
  return [...map.values()].sort((a, b) => (a.key < b.key ? -1 : 1))
}

/** "ARM968-B × 6, ARM968-A × 1" in table order. */
export const countsSentence = (counts: FamilyCounts): string =>
  families
    .filter((f) => (counts[f] ?? 0) > 0)
    .map((f) => `${f} × ${counts[f]}`)
    .join(', ')
