import type { DumpInspection } from '../dump/inspect'
import type { FileFinding } from '../image/image'
import { checkEntries, type Partition, type PartitionTable } from '../image/partitions'
import type { FileKind } from '../image/structure'
import { type Attempt, neverBegan, type UnitView } from './view'

/** A table as it was read from a file, with what only the reading could tell. */
export interface KeptTable {
  table: PartitionTable
  /** Faults that the table itself no longer shows: it was cut off, an entry started wrong, a slot record was damaged. */
  read: FileFinding[]
}

const tableRoom = 0xc00

/** Found while reading; everything else is judged again from the entries. */
const readingCodes: ReadonlySet<string> = new Set(['truncated', 'partition-bad-magic', 'slot-select-damaged'])

/**
 * The table that an inspection found. A dump's inspection makes faults of what is inside milder, since a half-written
 * chip is a normal thing to read; for writing by that table they count in full again.
 */
export function keptTable(found: {
  kind: FileKind
  partitions: PartitionTable | null
  findings: readonly FileFinding[]
}): KeptTable | null {
  const table = found.partitions
  if (!table) return null
  const from = found.kind === 'partition-table' ? 0 : table.tableOffset
  const read = found.findings.flatMap((f): FileFinding[] => {
    if (!readingCodes.has(f.code) || f.at === null) return []
    if (f.code === 'slot-select-damaged') return [f]
    // A program inside the file may be cut off too; that is not the table's fault.
    return f.at >= from && f.at < from + tableRoom
      ? [{ ...f, at: f.at - from + table.tableOffset, severity: 'error' }]
      : []
  })
  return { table, read }
}

export interface ChipLayout {
  table: PartitionTable
  findings: FileFinding[]
  /** How it is known. */
  from: 'read' | 'written'
  at: string
}

/** Did this attempt change what lies where the table is? */
const touchedTable = (a: Attempt): boolean => a.table != null || a.erase === 'chip'

const reachedTheEnd: ReadonlySet<Attempt['outcome']> = new Set(['done', 'no-start'])

/**
 * The layout that the last thing which touched it left behind: a whole-chip file or a table that was written, or what was
 * read. Null when nobody knows: nothing was read, a write broke off over it, or the chip was erased.
 */
export function chipLayoutOf(view: UnitView, flashBytes: number | null): ChipLayout | null {
  const judged = (kept: KeptTable, from: ChipLayout['from'], at: string): ChipLayout => ({
    table: kept.table,
    findings: [...checkEntries(kept.table, kept.table.tableOffset, flashBytes), ...kept.read],
    from,
    at,
  })
  const read = view.files.find((f) => f.kind === 'dump' && f.read === 1) ?? null
  const written = view.attempts.find((a) => !neverBegan.has(a.outcome) && touchedTable(a))
  if (written && (!read || Date.parse(written.at) >= Date.parse(read.createdAt)))
    return written.table && reachedTheEnd.has(written.outcome) ? judged(written.table, 'written', written.at) : null
  const dump = (read?.inspection ?? null) as DumpInspection | null
  const kept = dump && keptTable(dump)
  return read && kept ? judged(kept, 'read', read.createdAt) : null
}

export interface UpdateRoom {
  /** Slot that the next update goes into; null when updates over the air cannot work with this layout. */
  slot: Partition | null
  /** Why there is none, in a sentence. */
  why: string
}

/** Where the next update over the air goes by a layout: the slot that is not running. */
export function updateRoomOf(table: PartitionTable): UpdateRoom {
  const slots = table.entries.filter((e) => /^slot\d+$/.test(e.role)).sort((a, b) => a.subtype - b.subtype)
  const none = (why: string): UpdateRoom => ({ slot: null, why: `${why}: updates go over wires.` })
  if (!table.entries.some((e) => e.role === 'slot-select')) return none('Its layout has no slot-select area')
  if (slots.length < 2) return none(`Its layout has ${slots.length === 1 ? 'one slot' : 'no slot'} only`)
  const running = table.active?.slot
  // While nobody knows which slot runs, the smallest is what can be relied on.
  const slot =
    running == null
      ? slots.reduce((least, s) => (s.length < least.length ? s : least))
      : (slots[(running + 1) % slots.length] as Partition)
  return { slot, why: '' }
}
