import { createHash } from 'node:crypto'
import { inspectDump } from '../dump/inspect'
import { buildChip, buildExtended, buildPartitions, buildSlotSelect, type NewPartition } from '../image/build'
import { inspectImage, sortFindings } from '../image/inspect'
import { readTableFile } from '../image/partitions'
import { hashedPieces } from '../image/structure'
import { chipLayoutOf, keptTable, updateRoomOf } from './chip-layout'
import type { Attempt, UnitView } from './view'

// The platform's hash gives the same, many times as fast.
const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex')
const size = 0x400000
const program = (fill: number) =>
  buildExtended({
    chipId: 5,
    mode: 'DOUT',
    sizeCode: 2,
    entry: 0x42000020,
    segments: [{ address: 0x3c000020, data: new Uint8Array(400).fill(fill) }],
  })
const good: NewPartition[] = [
  { label: 'kv', type: 1, subtype: 2, offset: 0x9000, length: 0x4000 },
  { label: 'select', type: 1, subtype: 0, offset: 0xd000, length: 0x2000 },
  { label: 'slot-a', type: 0, subtype: 0x10, offset: 0x10000, length: 0x180000 },
  { label: 'slot-b', type: 0, subtype: 0x11, offset: 0x190000, length: 0x120000 },
]
const chip = (entries: NewPartition[], more: [number, Uint8Array][] = [], withMd5 = true) =>
  buildChip(size, [
    [0, program(1)],
    [0x8000, buildPartitions(entries, withMd5)],
    [0xd000, buildSlotSelect(3)],
    [0x10000, program(2)],
    ...more,
  ])
const readAt = '2026-11-20T10:00:00.000Z'
const unit = (read: Uint8Array | null, attempts: Partial<Attempt>[] = []) =>
  ({
    files: read
      ? [{ kind: 'dump', read: 1, createdAt: readAt, inspection: inspectDump(read, {}, { sha256: '', digest }) }]
      : [],
    attempts,
  }) as unknown as UnitView
const codes = (view: UnitView) => chipLayoutOf(view, size)?.findings.map((f) => `${f.severity} ${f.code}`)

describe('the layout on a chip', () => {
  const wrong: [string, Uint8Array][] = [
    ['nothing wrong', chip(good)],
    ['no checksum', chip(good, [], false)],
    [
      'overlap and past the end',
      chip([...good, { label: 'x', type: 1, subtype: 0x82, offset: 0x2a0000, length: 0x200000 }]),
    ],
    [
      'not aligned, same name',
      chip([...good, { label: 'kv', type: 1, subtype: 0x82, offset: 0x2c0100, length: 0x1000 }]),
    ],
    ['an entry starts wrong', chip(good, [[0x8060, Uint8Array.of(0x12, 0x34)]])],
    ['its checksum is wrong', chip(good, [[0x8090, Uint8Array.of(1)]])],
    ['a slot record is damaged', chip(good, [[0xe000, Uint8Array.of(9, 9, 9, 9)]])],
    ['no program has room', chip(good.filter((e) => e.type === 1))],
  ]
  test.each(wrong)(
    'read back from the inspection of a dump, a table is judged as strictly as a table file: %s',
    (_, bytes) => {
      const strict = readTableFile(bytes, 0x8000, size)
      expect(sortFindings(chipLayoutOf(unit(bytes), size)?.findings ?? [])).toEqual(sortFindings(strict.findings))
    },
  )
  test('the dump itself is milder: a half-written chip is a normal thing to read', () => {
    const bytes = (wrong[4] as [string, Uint8Array])[1]
    expect(inspectDump(bytes).findings.find((f) => f.code === 'partition-bad-magic')?.severity).toBe('watch')
    expect(codes(unit(bytes))).toContain('error partition-bad-magic')
  })
  test('judged for the size on record, not for the length that was read', () => {
    const view = unit(chip(good))
    expect(codes(view)).toEqual([])
    expect(chipLayoutOf(view, 0x200000)?.findings.map((f) => f.code)).toEqual(['partition-past-end'])
  })
  test('what was written last counts; a write that broke off, or a whole erase, leaves nobody knowing', () => {
    const other = keptTable(inspectImage(buildPartitions(good.slice(1))))
    const wrote = (outcome: Attempt['outcome'], at: string, more: Partial<Attempt> = {}): Partial<Attempt> => ({
      outcome,
      at,
      erase: 'chip',
      table: other,
      ...more,
    })
    const later = '2026-11-21T10:00:00.000Z'
    const labels = (view: UnitView) => chipLayoutOf(view, size)?.table.entries.map((e) => e.label)
    const read = chip(good)
    expect(labels(unit(read, [wrote('done', later)]))).toEqual(['select', 'slot-a', 'slot-b'])
    expect(labels(unit(read, [wrote('no-start', later)]))).toEqual(['select', 'slot-a', 'slot-b'])
    expect(labels(unit(read, [wrote('no-answer', later)]))).toContain('kv')
    expect(labels(unit(read, [wrote('lost-midway', later)]))).toBeUndefined()
    expect(labels(unit(read, [wrote('done', later, { table: null })]))).toBeUndefined()
    // By regions, an app does not touch the table; a read of after the write is newer than it.
    expect(labels(unit(read, [wrote('done', later, { table: null, erase: 'regions' })]))).toContain('kv')
    expect(labels(unit(read, [wrote('done', '2026-11-01T10:00:00.000Z')]))).toContain('kv')
    expect(labels(unit(null))).toBeUndefined()
  })
})

describe('where the next update goes', () => {
  const table = (bytes: Uint8Array) => readTableFile(bytes, 0x8000, size).table as NonNullable<UnitTable>
  type UnitTable = ReturnType<typeof readTableFile>['table']
  test('into the slot that is not running', () => {
    expect(table(chip(good)).active?.label).toBe('slot-a')
    expect(updateRoomOf(table(chip(good))).slot?.label).toBe('slot-b')
    const other = chip(good, [[0xd000, buildSlotSelect(4)]])
    expect(updateRoomOf(table(other)).slot?.label).toBe('slot-a')
  })
  test('while nobody knows what runs, the smallest slot is what can be relied on', () =>
    expect(updateRoomOf(table(buildPartitions(good))).slot?.label).toBe('slot-b'))
  test('nowhere, and why', () => {
    expect(updateRoomOf(table(chip(good.slice(0, 3)))).why).toMatch(/one slot only: updates go over wires/)
    expect(updateRoomOf(table(chip(good.filter((e) => e.label !== 'select')))).why).toMatch(/no slot-select area/)
  })
})

test('the pieces a dump hashes can be hashed beforehand', () => {
  const bytes = chip(good, [[0x190000, program(3)]])
  const pieces = hashedPieces(bytes)
  expect(pieces.map((p) => p.byteOffset)).toEqual([0, 0x10000, 0x190000])
  const seen: number[] = []
  const found = inspectDump(
    bytes,
    {},
    {
      digest: (piece) => {
        seen.push(piece.byteOffset)
        return 'aa'
      },
    },
  )
  expect(seen).toEqual([0, 0, 0x10000, 0x190000])
  expect(found.images.every((i) => i.hash?.computed === 'aa' && !i.hash.ok)).toBe(true)
})
