import fc from 'fast-check'
import { buildPartitions, buildSlotSelect, type NewPartition, twoSlotLayout } from './build'
import {
  checkEntries,
  defaultTableOffset,
  layoutOf,
  partitionRole,
  readTableFile,
  sequenceFor,
  slotOfSequence,
  slotSelectCrc,
} from './partitions'

const table = (entries: readonly NewPartition[], flashBytes: number | null = 4 * 1_048_576) =>
  readTableFile(buildPartitions(entries), defaultTableOffset, flashBytes)
const codes = (entries: readonly NewPartition[], flashBytes?: number | null) =>
  table(entries, flashBytes)
    .findings.filter((f) => f.severity !== 'ok')
    .map((f) => f.code)
const [first] = twoSlotLayout as [NewPartition]

describe('a partition table', () => {
  test('comes out as it was built', () => {
    const { table: read, findings } = table(twoSlotLayout)
    expect(read?.entries.map((e) => [e.label, e.offset, e.length])).toEqual(
      twoSlotLayout.map((p) => [p.label, p.offset, p.length]),
    )
    expect([read?.md5?.ok, findings.filter((f) => f.severity === 'error')]).toEqual([true, []])
  })
  test('with a changed byte: the checksum says so', () => {
    const bytes = buildPartitions(twoSlotLayout).slice()
    bytes[5] = (bytes[5] as number) ^ 0x10
    expect(readTableFile(bytes, defaultTableOffset, null).findings.some((f) => f.code.includes('md5'))).toBe(true)
  })
  test('two entries on one place overlap', () => {
    const twice = [...twoSlotLayout.slice(0, 1), { ...first, label: 'again' }]
    expect(table(twice).table?.overlaps).toMatchObject([{ a: first.label, b: 'again' }])
    expect(codes(twice).some((c) => c.includes('overlap'))).toBe(true)
  })
  test('an entry past the end of the chip is said, when the size is known', () => {
    const far = [{ ...first, offset: 0x3ff000, length: 0x10000 }]
    expect(codes(far, 4 * 1_048_576).some((c) => c.includes('end') || c.includes('past'))).toBe(true)
    expect(codes(far, null).some((c) => c.includes('past'))).toBe(false)
  })
  test.each([0, 1, 31, 33, 100])(
    'cut off after %i bytes: no table, or one that says it is cut off; never a crash',
    (n) => {
      const { table: read, findings } = readTableFile(buildPartitions(twoSlotLayout).subarray(0, n), 0x8000, null)
      expect(read === null || findings.length > 0).toBe(true)
    },
  )
  test('any bytes are read without a crash', () =>
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (junk) => {
        const { table: read } = readTableFile(junk, 0x8000, 1_048_576)
        if (read) expect(() => checkEntries(read, 0x8000, 1_048_576)).not.toThrow()
      }),
    ))
})

describe('regions from 0 to the end of the chip', () => {
  test('touch each other and leave nothing out', () => {
    const entries = table(twoSlotLayout).table?.entries ?? []
    const regions = layoutOf(entries, defaultTableOffset, 4 * 1_048_576)
    let at = 0
    for (const r of regions) {
      expect(r.offset).toBe(at)
      at += r.length
    }
    expect(at).toBe(4 * 1_048_576)
  })
  test('without a size they end with the last entry', () => {
    const entries = table(twoSlotLayout).table?.entries ?? []
    const last = layoutOf(entries, defaultTableOffset, null).at(-1)
    expect(last?.kind).toBe('partition')
  })
})

describe('which slot starts', () => {
  test('sequences select slots in turn', () => {
    expect([1, 2, 3, 4].map((s) => slotOfSequence(s, 2))).toEqual([0, 1, 0, 1])
    expect([sequenceFor(0, 2, 4), sequenceFor(1, 2, 4)]).toEqual([5, 6])
  })
  test('the next sequence for a slot is the smallest above that selects it', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 16 }), fc.nat(1000), fc.nat(100), (slots, highest, which) => {
        const wanted = which % slots
        const next = sequenceFor(wanted, slots, highest)
        expect(slotOfSequence(next, slots)).toBe(wanted)
        expect(next - highest).toBeGreaterThanOrEqual(1)
        expect(next - highest).toBeLessThanOrEqual(slots)
      }),
    ))
  test('a record carries the checksum of its sequence', () => {
    const record = buildSlotSelect(7)
    const view = new DataView(record.buffer, record.byteOffset)
    expect([view.getUint32(0, true), view.getUint32(28, true)]).toEqual([7, slotSelectCrc(7)])
  })
})

test.each([
  [0, 0, 'factory'],
  [0, 0x10, 'slot0'],
  [0, 0x1f, 'slot15'],
  [0, 0x20, 'test'],
  [0, 0x30, 'other'],
  [1, 0, 'slot-select'],
  [1, 2, 'settings'],
  [1, 0x82, 'files'],
  [1, 0x99, 'other'],
  [0x40, 1, 'other'],
])('type %i, subtype 0x%x is %s', (type, subtype, role) => expect(partitionRole(type, subtype)).toBe(role))
