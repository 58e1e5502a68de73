import fc from 'fast-check'
import { gzipSync } from 'fflate'
import { sha256Hex } from '../bytes/digests'
import { bytesOfLatin1, hexOf } from '../bytes/text'
import { curtainDescriptor } from '../testing/curtain'
import {
  buildChip,
  buildExtended,
  buildLx106,
  buildLx106Second,
  buildPartitions,
  buildSlotSelect,
  noise,
  twoSlotLayout,
} from './build'
import { inspectImage, largestFile } from './inspect'
import { readPartitions, sequenceFor, slotOfSequence, slotSelectCrc } from './partitions'

const plain = buildLx106({
  mode: 'DIO',
  sizeCode: 2,
  entry: 0x40100004,
  segments: [
    { address: 0x40100000, data: Uint8Array.of(0, 1, 2, 3, 4, 5, 6, 7) },
    { address: 0x3ffe8000, data: bytesOfLatin1('ABCD') },
  ],
})
const descriptor = curtainDescriptor
const rv32 = buildExtended({
  mode: 'DIO',
  sizeCode: 2,
  clock: 15,
  entry: 0x42000020,
  chipId: 5,
  maxRevision: 199,
  minRevision: 3,
  segments: [{ address: 0x3c000020, data: descriptor }],
})
const layout = twoSlotLayout
const codes = (bytes: Uint8Array, options = {}) => inspectImage(bytes, options).findings.map((f) => f.code)

describe('LX106, first generation', () => {
  test('the worked image is built and read byte for byte', () => {
    expect(hexOf(plain)).toBe(
      'e902022004001040000010400800000000010203040506070080fe3f04000000414243440000000000000000000000eb',
    )
    expect(sha256Hex(plain)).toMatch(/^94d3cd5d.*a9ec63$/)
    const found = inspectImage(plain)
    expect(found).toMatchObject({ kind: 'app', family: 'LX106', trailingBytes: 0, findings: [] })
    expect(found.images[0]).toMatchObject({
      format: 'lx106-1',
      mode: 'DIO',
      flashBytes: 1048576,
      flashMHz: 40,
      bytes: 48,
      checksum: { offset: 47, stored: 0xeb, computed: 0xeb, ok: true },
    })
  })
  test('500 000 bytes: checksum EF and the digest of the worked example', () => {
    const image = buildLx106({
      mode: 'DIO',
      sizeCode: 2,
      entry: 0x40100010,
      segments: [{ address: 0x40100000, data: new Uint8Array(499_976) }],
    })
    expect([image.length, image.at(-1)]).toEqual([500_000, 0xef])
    expect(sha256Hex(image)).toMatch(/^c62415d98a2a7ad0.*bfc90461972$/)
  })
  test('a loader below 0x1000 and the program behind it are two images', () => {
    const second = buildLx106Second(
      { mode: 'DIO', sizeCode: 2, entry: 0x40100004, segments: [{ address: 0x40100000, data: noise(64, 3) }] },
      noise(256, 5),
    )
    const file = buildChip(0x1000 + second.length, [
      [0, plain],
      [0x1000, second],
    ])
    const found = inspectImage(file)
    expect(found.kind).toBe('merged')
    expect(found.images.map((i) => [i.format, i.offset, i.crc32?.ok ?? null])).toEqual([
      ['lx106-1', 0, null],
      ['lx106-2', 0x1000, true],
    ])
    expect(found.trailingBytes).toBe(0)
    expect(found.findings).toEqual([])
  })
  test('a changed byte in the second generation breaks checksum or CRC', () => {
    const second = buildLx106Second(
      { mode: 'DOUT', sizeCode: 2, entry: 0x40100004, segments: [{ address: 0x40100000, data: noise(64, 3) }] },
      noise(256, 5),
    )
    second[40] = (second[40] as number) ^ 4
    expect(codes(second)).toEqual(['crc-bad'])
  })
})

describe('extended header', () => {
  test('the worked RV32 app', () => {
    expect(hexOf(rv32.subarray(0, 32))).toBe('e901022f20000042ee0000000500000300c70000000000012000003c00010000')
    const found = inspectImage(rv32)
    expect(found).toMatchObject({ kind: 'app', family: 'RV32', chipId: 5, trailingBytes: 0, findings: [] })
    expect(found.images[0]).toMatchObject({
      bytes: 336,
      checksum: { offset: 303, stored: 0xd8, ok: true },
      hash: { offset: 304, ok: true },
      app: { version: '3.2.0', project: 'curtain', time: '18:30:00', framework: '5.2' },
      minRevision: 3,
      maxRevision: 199,
      flashMHz: 80,
    })
    expect(found.images[0]?.hash?.stored).toMatch(/^6505fdba.*76085060$/)
    expect(found.sha256).toMatch(/^b5b46286.*2a6913a4$/)
  })
  test('byte 100 changed: checksum and hash both tell', () => {
    const bad = rv32.slice()
    bad[100] = (bad[100] as number) ^ 0x10
    expect(codes(bad)).toEqual(['checksum-bad', 'hash-bad'])
    expect(inspectImage(bad).images[0]?.checksum).toMatchObject({ stored: 0xd8, computed: 0xc8 })
  })
  test('whole chip: boot image, table, programs, active slot', () => {
    const boot = buildExtended({
      mode: 'DIO',
      sizeCode: 2,
      entry: 0x40380000,
      chipId: 5,
      segments: [{ address: 0x3fcd5000, data: noise(256, 9) }],
    })
    const select = buildSlotSelect(11)
    const other = buildSlotSelect(12)
    const chip = buildChip(0x400000, [
      [0, boot],
      [0x8000, buildPartitions(layout)],
      [0xd000, select],
      [0xe000, other],
      [0x10000, rv32],
      [0x190000, rv32],
    ])
    const found = inspectImage(chip, { family: 'RV32', flashBytes: 0x400000 })
    expect(found.kind).toBe('merged')
    expect(found.images.map((i) => i.offset)).toEqual([0, 0x10000, 0x190000])
    expect(found.partitions).toMatchObject({
      slots: 2,
      factory: false,
      md5: { ok: true },
      active: { slot: 1, label: 'slot-b', reason: 'highest-sequence' },
    })
    expect(found.findings).toEqual([])
    expect(codes(chip, { family: 'LX6' })).toEqual(['family-mismatch'])
  })
  test('behind 4 KiB of FF on a chip that starts at 0: boot-offset', () => {
    const boot = buildExtended({
      mode: 'DIO',
      sizeCode: 2,
      entry: 0x40380000,
      chipId: 5,
      segments: [{ address: 0x3fcd5000, data: noise(64, 9) }],
    })
    expect(codes(buildChip(0x1000 + boot.length, [[0x1000, boot]]))).toEqual(['boot-offset', 'partition-table-missing'])
  })
})

describe('partition table', () => {
  const table = buildPartitions(layout)
  test('the worked table fits 4 MiB and runs past the end of 2 MiB', () => {
    expect(hexOf(table.subarray(0, 32))).toBe(`aa5001020090000000400000 6b76${'00'.repeat(18)}`.replace(' ', ''))
    const fits = readPartitions(table, 0x8000, 0x400000, { bare: true })
    expect(fits.findings).toEqual([])
    expect(fits.table?.md5?.stored).toBe('c19e230aa15180e8e7ad2998f283cb41')
    expect(fits.table?.layout.map((r) => r.kind)).not.toContain('gap')
    const small = readPartitions(table, 0x8000, 0x200000, { bare: true })
    expect(small.findings.map((f) => f.code)).toEqual(['partition-past-end', 'partition-past-end'])
  })
  test('CRC of sequences, and which slot they select', () => {
    expect([1, 2, 3, 4].map((s) => slotSelectCrc(s).toString(16))).toEqual([
      '4743989a',
      '55f63774',
      'ed4a5011',
      '709d68a8',
    ])
    expect([slotOfSequence(12, 2), slotOfSequence(12, 3)]).toEqual([1, 2])
    expect([sequenceFor(0, 2, 12), sequenceFor(1, 3, 12)]).toEqual([13, 14])
  })
  test('overlap, odd length, unaligned app, in reserved, twice the name, no app', () => {
    const bad = buildPartitions([
      { label: 'a', type: 1, subtype: 2, offset: 0x8000, length: 0x2000 },
      { label: 'a', type: 1, subtype: 1, offset: 0x9000, length: 0x1001 },
    ])
    expect(
      readPartitions(bad, 0x8000, null, { bare: true })
        .findings.map((f) => f.code)
        .sort(),
    ).toEqual(['no-app', 'partition-duplicate-label', 'partition-in-reserved', 'partition-length', 'partition-overlap'])
    const odd = buildPartitions([{ label: 'p', type: 0, subtype: 0x10, offset: 0x11000, length: 0x1000 }], false)
    expect(
      readPartitions(odd, 0x8000, null, { bare: true })
        .findings.map((f) => f.code)
        .sort(),
    ).toEqual(['partition-md5-absent', 'partition-unaligned', 'slot-select-missing'])
  })
  test('no partition lies outside the layout and regions are in order', () => {
    const entry = fc.record({
      label: fc.constantFrom('a', 'b', 'c'),
      type: fc.constantFrom(0, 1, 0x40),
      subtype: fc.nat(255),
      offset: fc.nat(1023).map((n) => n * 4096),
      length: fc.nat(255).map((n) => n * 4096),
    })
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 20 }), (entries) => {
        const { table } = readPartitions(
          entries.length ? buildPartitions(entries) : buildPartitions(layout),
          0x8000,
          0x400000,
          { bare: true },
        )
        const offsets = table?.layout.map((r) => r.offset) ?? []
        expect([...offsets].sort((a, b) => a - b)).toEqual(offsets)
      }),
    )
  })
})

describe('what is no image', () => {
  test.each<[string, Uint8Array, string[]]>([
    ['nothing', new Uint8Array(0), ['empty-file']],
    ['all FF', new Uint8Array(4096).fill(0xff), ['blank-file']],
    ['text', bytesOfLatin1('dear reader, this is a letter'), ['unknown-format']],
    ['a container', bytesOfLatin1('RBL\0 and more'), ['ota-container']],
    ['ten bytes of header', plain.subarray(0, 10), ['truncated']],
    ['a packed file cut in half', gzipSync(noise(5000, 4)).subarray(0, 2000), ['gzip-bad']],
  ])('%s', (_, bytes, expected) => expect(codes(bytes)).toEqual(expected))

  test('a packed image is read and told apart from one for wires', () => {
    const found = inspectImage(gzipSync(plain))
    expect(found).toMatchObject({ kind: 'app', family: 'LX106', gzip: { bytes: 48, sha256: sha256Hex(plain) } })
    expect(found.findings.map((f) => f.code)).toEqual(['gzip-ota-only'])
  })
  test('a bomb is refused', () => expect(codes(gzipSync(new Uint8Array(largestFile + 1)))).toEqual(['gzip-too-large']))
  test('too large: nothing is parsed', () =>
    expect(inspectImage(new Uint8Array(largestFile + 1))).toMatchObject({ sha256: null, kind: 'unknown' }))
  test('a header for 1 MiB on a chip of 512 KiB', () =>
    expect(codes(plain, { flashBytes: 524288 })).toEqual(['header-size-too-large']))
})

describe('damaged images', () => {
  test('cut at every boundary: truncated, and never ok', () => {
    for (let n = 24; n < plain.length; n++) expect(codes(plain.subarray(0, n))).toContain('truncated')
    for (let n = 24; n < rv32.length; n++) expect(codes(rv32.subarray(0, n))).toContain('truncated')
  })
  test('any changed byte of the hashed RV32 image is noticed, and nothing throws', () => {
    fc.assert(
      fc.property(fc.nat(rv32.length - 1), fc.integer({ min: 1, max: 255 }), (i, x) => {
        const bad = rv32.slice()
        bad[i] = (bad[i] as number) ^ x
        expect(
          inspectImage(bad, { family: 'RV32' }).findings.some((f) => f.severity === 'error' || f.severity === 'watch'),
        ).toBe(true)
      }),
    )
  })
  test('random bytes never throw', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.constantFrom(0xe9, 0xea, 0xaa, 0x1f), (bytes, first) => {
        const file = bytes.slice()
        if (file.length) file[0] = first
        expect(inspectImage(file).bytes).toBe(file.length)
      }),
    )
  })
})
