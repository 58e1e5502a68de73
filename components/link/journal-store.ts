import { parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { Journal } from '@fresh-coat/core/link/journal'
import { createStore, del, get, set } from 'idb-keyval'

/** Journals of writes that are not finished, in the browser that writes: they survive a reload, a crash and a closed laptop. */
let store: ReturnType<typeof createStore> | null = null
const where = () => {
  store ??= createStore('fresh-coat-journals', 'journals')
  return store
}

/** Kept before anything is erased: where it cannot be kept, the write must not begin, so this throws. */
export const keepJournal = (unitId: string, journal: Journal | null): Promise<void> =>
  journal === null ? del(unitId, where()) : set(unitId, journal, where())

/** The unfinished write of a unit; null where there is none, or the browser keeps nothing. */
export async function openJournal(unitId: string): Promise<Journal | null> {
  try {
    const kept = parseInput(Journal, await get(unitId, where()), strictCodes)
    return kept.ok ? kept.value : null
  } catch {
    return null
  }
}
