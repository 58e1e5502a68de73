import type { FamilyFacts } from '../families/families'

/**
 * What flash-begin is told to erase and what the ROM then erases. One ROM erases in pairs: told n sectors from sector s it
 * takes min(16 − s mod 16, n) + n, since the part up to the next 64 KiB block is not taken off the rest (brief 06 §2).
 */
export const sectorBytes = 4096
const blockSectors = 16

export interface Erase {
  /** Sectors in the request. */
  told: number
  /** Sectors that are gone afterwards, from the same start. */
  erased: number
}

const toNextBlock = (sector: number) => blockSectors - (sector % blockSectors)

/** @param sector the first, counted from the start of the chip @param wanted how many have to be erased */
export function eraseOf(rule: NonNullable<FamilyFacts['link']>['erase'], sector: number, wanted: number): Erase {
  if (rule === 'as-told' || wanted === 0) return { told: wanted, erased: wanted }
  const head = Math.min(toNextBlock(sector), wanted)
  const told = wanted < 2 * head ? Math.ceil(wanted / 2) : wanted - head
  return { told, erased: Math.min(toNextBlock(sector), told) + told }
}
