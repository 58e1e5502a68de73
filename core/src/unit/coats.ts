import { type CoatId, coats, steps } from './way'

export interface CoatProgress {
  id: CoatId
  name: string
  done: number
  of: number
  /** A step of this coat is in hand. */
  active: boolean
}

/** As much of it as its paint needs. */
export type CoatDone = Pick<CoatProgress, 'id' | 'done' | 'of'>

/** Steps of each coat, for the share of the way that it is. */
const lengths = new Map(coats.map((c) => [c.id, steps.filter((s) => s.coat === c.id && s.id !== 'watch').length]))
const wholeWay = [...lengths.values()].reduce((a, b) => a + b, 0)

/** How far a coat reaches on the painted way, from 0 to 1: where it begins and ends. */
export function coatSpan(coat: CoatId): { from: number; to: number } {
  let at = 0
  for (const c of coats) {
    const length = lengths.get(c.id) ?? 0
    if (c.id === coat) return { from: at / wholeWay, to: (at + length) / wholeWay }
    at += length
  }
  return { from: 1, to: 1 }
}

/** How much of the way is painted, from 0 to 1; a coat of which a route asks nothing counts as painted. */
export const painted = (progress: readonly CoatDone[]): number =>
  progress.reduce((sum, c) => {
    const { from, to } = coatSpan(c.id)
    return sum + (to - from) * (c.of === 0 ? 1 : c.done / c.of)
  }, 0)
