import { crc32 } from '../bytes/checksums'
import { md5Hex } from '../bytes/digests'
import { hexNumber, hexOf } from '../bytes/text'
import { nth } from '../edge/nth'
import { at, type FileFinding } from './image'

export const defaultTableOffset = 0x8000
const entryBytes = 32
const tableRoom = 0xc00
const sector = 4096

export interface Partition {
  label: string
  type: number
  subtype: number
  role: string
  offset: number
  length: number
  flags: number
  encrypted: boolean
  readonly: boolean
}

export interface LayoutRegion {
  kind: 'reserved' | 'table' | 'partition' | 'gap'
  label: string
  offset: number
  length: number
}

export interface SlotRecord {
  seq: number
  state: number
  crcOk: boolean
  valid: boolean
}

export interface ActiveSlot {
  entries: SlotRecord[]
  slot: number | null
  label: string | null
  reason: 'highest-sequence' | 'factory' | 'first-slot' | 'none'
}

export interface PartitionTable {
  tableOffset: number
  entries: Partition[]
  md5: { stored: string; computed: string; ok: boolean } | null
  flashBytes: number | null
  slots: number
  factory: boolean
  layout: LayoutRegion[]
  overlaps: { a: string; b: string; offset: number; length: number }[]
  active: ActiveSlot | null
}

const dataRoles: Record<number, string> = {
  0: 'slot-select',
  1: 'phy',
  2: 'settings',
  3: 'coredump',
  4: 'settings-keys',
}

/** What a partition is for, from its type and subtype. */
export function partitionRole(type: number, subtype: number): string {
  if (type === 0) {
    if (subtype === 0) return 'factory'
    if (subtype >= 0x10 && subtype <= 0x1f) return `slot${subtype - 0x10}`
    if (subtype === 0x20) return 'test'
  }
  if (type === 1) {
    if (subtype >= 0x80 && subtype <= 0x83) return 'files'
    return dataRoles[subtype] ?? 'other'
  }
  return 'other'
}

/** Areas that the running firmware writes by itself. */
export const selfWritingRoles: ReadonlySet<string> = new Set([
  'settings',
  'settings-keys',
  'slot-select',
  'phy',
  'coredump',
  'files',
])

function labelOf(bytes: Uint8Array, from: number): string {
  let out = ''
  for (let i = from; i < from + 16 && bytes[i]; i++) {
    const b = nth(bytes, i)
    out += b >= 0x20 && b <= 0x7e ? String.fromCharCode(b) : '?'
  }
  return out
}

const slotOf = (role: string): number | null => (/^slot\d+$/.test(role) ? Number(role.slice(4)) : null)

/** Free and used regions from 0 to the end of the chip, in order. */
export function layoutOf(
  entries: readonly Partition[],
  tableOffset: number,
  flashBytes: number | null,
): LayoutRegion[] {
  const regions: LayoutRegion[] = [
    ...(tableOffset > 0 ? [{ kind: 'reserved' as const, label: 'boot', offset: 0, length: tableOffset }] : []),
    { kind: 'table' as const, label: 'partition table', offset: tableOffset, length: sector },
    ...entries.map((e) => ({ kind: 'partition' as const, label: e.label, offset: e.offset, length: e.length })),
  ].sort((a, b) => a.offset - b.offset || a.length - b.length)
  const out: LayoutRegion[] = []
  let highest = 0
  for (const region of regions) {
    if (region.offset > highest) out.push({ kind: 'gap', label: '', offset: highest, length: region.offset - highest })
    out.push(region)
    highest = Math.max(highest, region.offset + region.length)
  }
  if (flashBytes !== null && flashBytes > highest)
    out.push({ kind: 'gap', label: '', offset: highest, length: flashBytes - highest })
  return out
}

/** The CRC of a slot-select record: zlib's crc32 of the four sequence bytes with a start of all ones. */
export function slotSelectCrc(sequence: number): number {
  const bytes = new Uint8Array(4)
  new DataView(bytes.buffer).setUint32(0, sequence, true)
  return crc32(bytes, 0)
}

/** (highest valid sequence − 1) mod slots. */
export const slotOfSequence = (sequence: number, slots: number): number => (sequence - 1) % slots

/** The next sequence above `highest` that selects `wanted` of `slots`. */
export function sequenceFor(wanted: number, slots: number, highest: number): number {
  let s = highest + 1
  while (slotOfSequence(s, slots) !== wanted) s++
  return s
}

function activeSlot(bytes: Uint8Array, entries: readonly Partition[], findings: FileFinding[]): ActiveSlot | null {
  const select = entries.find((e) => e.role === 'slot-select')
  if (!select || select.length !== 2 * sector || select.offset + 2 * sector > bytes.length) return null
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const records = [0, 1].map((i): SlotRecord => {
    const from = select.offset + i * sector
    const seq = view.getUint32(from, true)
    const state = view.getUint32(from + 24, true)
    const crcOk = view.getUint32(from + 28, true) === slotSelectCrc(seq)
    const valid = crcOk && seq !== 0 && seq !== 0xffffffff && state !== 3 && state !== 4
    const inUse = bytes.subarray(from, from + 32).some((b) => b !== 0xff)
    if (inUse && !valid)
      findings.push(
        at(
          from,
          'slot-select-damaged',
          'watch',
          'A slot-select record is in use but not valid: updates over the air cannot choose a slot by it.',
          `Sequence ${seq}, state ${state}, CRC ${crcOk ? 'right' : 'wrong'}.`,
          'The other record counts; write the whole chip if the unit starts the wrong program.',
        ),
      )
    return { seq, state, crcOk, valid }
  })
  const slots = entries.filter((e) => slotOf(e.role) !== null).sort((a, b) => a.subtype - b.subtype)
  const factory = entries.find((e) => e.role === 'factory')
  const highest = Math.max(0, ...records.filter((r) => r.valid).map((r) => r.seq))
  if (highest > 0 && slots.length > 0) {
    const slot = slotOfSequence(highest, slots.length)
    return { entries: records, slot, label: slots[slot]?.label ?? null, reason: 'highest-sequence' }
  }
  if (factory) return { entries: records, slot: null, label: factory.label, reason: 'factory' }
  if (slots.length > 0) return { entries: records, slot: 0, label: slots[0]?.label ?? null, reason: 'first-slot' }
  return { entries: records, slot: null, label: null, reason: 'none' }
}

/** A program starts at a multiple of 64 KiB, data at a sector. */
const alignment = (entry: Partition): number => (entry.type === 0 ? 0x10000 : sector)
export const isUnaligned = (entry: Partition): boolean => entry.offset % alignment(entry) !== 0

/** Pieces of two partitions that lie on each other: from the later offset to the lower end. */
function overlapsOf(entries: readonly Partition[]): (PartitionTable['overlaps'][number] & { later: Partition })[] {
  const order = [...entries].sort((a, b) => a.offset - b.offset || a.length - b.length)
  return order.flatMap((a, i) =>
    order.slice(i + 1).flatMap((b) => {
      const length = Math.min(a.offset + a.length, b.offset + b.length) - b.offset
      return length > 0 ? [{ a: a.label, b: b.label, offset: b.offset, length, later: b }] : []
    }),
  )
}

/**
 * What its entries say against a table.
 * @param from where the table begins in the file it was read from
 * @param flashBytes size of the chip it is judged for, when that is known
 */
export function checkEntries(table: PartitionTable, from: number, flashBytes: number | null): FileFinding[] {
  const findings: FileFinding[] = []
  // Entries follow each other without holes.
  const placeOf = (entry: Partition) => from + table.entries.indexOf(entry) * entryBytes
  const tableEnd = table.tableOffset + sector
  const labels = new Set<string>()
  const fix = 'Correct the partition table and build it again.'
  for (const e of table.entries) {
    const place = placeOf(e)
    const where = `Partition “${e.label}” at ${hexNumber(e.offset)}, ${e.length} bytes.`
    const unit = alignment(e)
    if (isUnaligned(e))
      findings.push(
        at(
          place,
          'partition-unaligned',
          'error',
          `Partition “${e.label}” starts at ${hexNumber(e.offset)}, ${e.offset % unit} bytes past a multiple of ${hexNumber(unit)}.`,
          where,
          fix,
        ),
      )
    if (e.length === 0 || e.length % sector)
      findings.push(
        at(
          place,
          'partition-length',
          'error',
          `Partition “${e.label}” has ${e.length} bytes, not whole sectors of 4096.`,
          where,
          fix,
        ),
      )
    if (flashBytes !== null && e.offset + e.length > flashBytes)
      findings.push(
        at(
          place,
          'partition-past-end',
          'error',
          `Partition “${e.label}” ends ${e.offset + e.length - flashBytes} bytes past the end of the chip.`,
          where,
          'Use a layout for this chip size.',
        ),
      )
    if (e.offset < tableEnd)
      findings.push(
        at(
          place,
          'partition-in-reserved',
          'error',
          `Partition “${e.label}” begins ${tableEnd - e.offset} bytes before the end of the partition table.`,
          where,
          fix,
        ),
      )
    if (labels.has(e.label))
      findings.push(
        at(
          place,
          'partition-duplicate-label',
          'watch',
          `There is a second partition called “${e.label}”.`,
          where,
          'Give each partition a name of its own.',
        ),
      )
    labels.add(e.label)
    if (e.role === 'slot-select' && e.length !== 2 * sector)
      findings.push(
        at(
          place,
          'slot-select-size',
          'error',
          `The slot-select area “${e.label}” has ${e.length} bytes instead of 8192: updates over the air cannot choose a slot.`,
          where,
          fix,
        ),
      )
  }
  for (const { a, b, offset, length, later } of overlapsOf(table.entries))
    findings.push(
      at(
        placeOf(later),
        'partition-overlap',
        'error',
        `Partitions “${a}” and “${b}” overlap by ${length} bytes from ${hexNumber(offset)}.`,
        '',
        fix,
      ),
    )
  if (!table.entries.some((e) => e.type === 0))
    findings.push(
      at(
        null,
        'no-app',
        'error',
        'The partition table has no room for a program.',
        `${table.entries.length} entries, none of type app.`,
        fix,
      ),
    )
  if (table.slots > 0 && !table.entries.some((e) => e.role === 'slot-select'))
    findings.push(
      at(
        null,
        'slot-select-missing',
        'watch',
        'There are slots but no slot-select area: updates over the air cannot choose a slot.',
        `${table.slots} slots.`,
        'Plan updates over serial, or use another layout.',
      ),
    )
  if (table.md5 === null)
    findings.push(
      at(
        null,
        'partition-md5-absent',
        'watch',
        'The partition table carries no checksum of itself.',
        '',
        'Compare the entries with the layout you expect.',
      ),
    )
  else if (!table.md5.ok)
    findings.push(
      at(
        from + table.entries.length * entryBytes,
        'partition-md5-bad',
        'error',
        'The partition table was changed after building.',
        `MD5 stored ${table.md5.stored.slice(0, 8)}…, computed ${table.md5.computed.slice(0, 8)}….`,
        'Download the file again.',
      ),
    )
  return findings
}

export interface ReadTable {
  table: PartitionTable | null
  findings: FileFinding[]
}

/**
 * Reads the partition table of a file.
 * @param tableOffset place of the table on the chip
 * @param options.bare the file holds nothing but the table, from its first byte on
 */
export function readPartitions(
  bytes: Uint8Array,
  tableOffset: number,
  flashBytes: number | null,
  options: { bare: boolean },
): ReadTable {
  const from = options.bare ? 0 : tableOffset
  const findings: FileFinding[] = []
  if (from + 2 > bytes.length || bytes[from] !== 0xaa || bytes[from + 1] !== 0x50) {
    findings.push(
      at(
        from,
        'partition-table-missing',
        'error',
        `There is no partition table at ${hexNumber(from)}.`,
        `The file has ${bytes.length} bytes.`,
        'Check the offset, or choose a whole-chip file.',
      ),
    )
    return { table: null, findings }
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const table: PartitionTable = {
    tableOffset,
    entries: [],
    md5: null,
    flashBytes,
    slots: 0,
    factory: false,
    layout: [],
    overlaps: [],
    active: null,
  }
  for (let p = from; p < from + tableRoom && p < bytes.length; p += entryBytes) {
    if (p + entryBytes > bytes.length) {
      findings.push(
        at(
          p,
          'truncated',
          'error',
          `The partition table ends in the middle of an entry at ${hexNumber(p)}.`,
          `The file has ${bytes.length} bytes.`,
          'Download the file again.',
        ),
      )
      break
    }
    const entry = bytes.subarray(p, p + entryBytes)
    if (entry.every((b) => b === 0xff)) break
    if (entry[0] === 0xeb && entry[1] === 0xeb && entry.subarray(2, 16).every((b) => b === 0xff)) {
      const stored = hexOf(entry.subarray(16, 32))
      const computed = md5Hex(bytes.subarray(from, p))
      table.md5 = { stored, computed, ok: stored === computed }
      break
    }
    if (entry[0] !== 0xaa || entry[1] !== 0x50) {
      findings.push(
        at(
          p,
          'partition-bad-magic',
          'error',
          `The entry at ${hexNumber(p)} starts wrong.`,
          `It starts ${hexOf(entry.subarray(0, 2))} instead of aa50.`,
          'Download the file again.',
        ),
      )
      break
    }
    const type = nth(entry, 2)
    const subtype = nth(entry, 3)
    const flags = view.getUint32(p + 28, true)
    table.entries.push({
      label: labelOf(bytes, p + 12),
      type,
      subtype,
      role: partitionRole(type, subtype),
      offset: view.getUint32(p + 4, true),
      length: view.getUint32(p + 8, true),
      flags,
      encrypted: (flags & 1) !== 0,
      readonly: (flags & 2) !== 0,
    })
  }
  table.slots = table.entries.filter((e) => slotOf(e.role) !== null).length
  table.factory = table.entries.some((e) => e.role === 'factory')
  table.layout = layoutOf(table.entries, tableOffset, flashBytes)
  table.overlaps = overlapsOf(table.entries).map(({ later: _, ...overlap }) => overlap)
  findings.push(...checkEntries(table, from, flashBytes))
  table.active = options.bare ? null : activeSlot(bytes, table.entries, findings)
  return { table, findings }
}

/** The table of a file that is one (it starts AA 50), or that holds one at `tableOffset`. */
export function readTableFile(bytes: Uint8Array, tableOffset: number, flashBytes: number | null): ReadTable {
  const bare = bytes[0] === 0xaa && bytes[1] === 0x50
  return readPartitions(bytes, tableOffset, flashBytes, { bare })
}
