import { type Family, hasPartitions } from '../families/families'
import { bootOffsetOfChip } from './image'
import type { ImageInspection } from './inspect'
import { defaultTableOffset, type Partition } from './partitions'

/** A file of a set, as the vault knows it. */
export interface PartToPlace {
  name: string
  bytes: number
  inspection: Pick<ImageInspection, 'kind' | 'chipId' | 'partitions' | 'images'>
}

/** Where the program goes in the layouts most builds have, while no table says otherwise. */
const usualAppOffset = 0x10000

/** The one hex number of a name: "settings_0x9000.bin". Two of them say nothing. */
function hexInName(name: string): number | null {
  const found = [...name.matchAll(/(?<![0-9A-Za-z])0x([0-9A-Fa-f]{1,8})(?![0-9A-Za-z])/g)]
  return found.length === 1 ? Number.parseInt((found[0] as RegExpExecArray)[1] as string, 16) : null
}

const only = (places: readonly Partition[]): number | null =>
  places.length === 1 ? (places[0] as Partition).offset : null

/** A file of a sector or two may be anything: its length says nothing. */
const tellingBytes = 0x2000

/** Data have no header: the place whose length they have, else what their name says. */
function dataOffset({ bytes, name }: PartToPlace, table: readonly Partition[]): number | null {
  const sameLength = bytes > tellingBytes ? table.filter((p) => p.type !== 0 && p.length === bytes) : []
  return only(sameLength) ?? hexInName(name)
}

function appOffset({ bytes }: PartToPlace, table: readonly Partition[]): number {
  const slot = table.find((p) => p.type === 0 && p.length >= bytes) ?? table.find((p) => p.type === 0)
  return slot?.offset ?? usualAppOffset
}

/**
 * Where each file of a set belongs, from what is in it; its name is only a hint, for data that say nothing of themselves.
 * @returns a flash address for each, in the same order; null where nobody can tell
 */
export function guessOffsets(parts: readonly PartToPlace[], family: Family): (number | null)[] {
  const table = parts.find((p) => p.inspection.kind === 'partition-table')?.inspection.partitions?.entries ?? []
  return parts.map((part) => {
    switch (part.inspection.kind) {
      case 'bootloader':
        return bootOffsetOfChip(part.inspection.chipId)
      case 'partition-table':
        return defaultTableOffset
      case 'merged':
        return 0
      case 'app':
        return hasPartitions(family) ? appOffset(part, table) : 0
      default:
        return dataOffset(part, table)
    }
  })
}
