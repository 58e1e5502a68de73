import fc from 'fast-check'
import { gzipSync } from 'fflate'
import { sha256Hex } from '../bytes/digests'
import { bytesOfLatin1 } from '../bytes/text'
import type { Family } from '../families/families'
import { curtainApp, curtainHead, curtainLoader } from '../testing/curtain'
import { buildChip, buildExtended, buildLx106, buildPartitions, noise, twoSlotLayout } from './build'
import { type GivenPart, judgeSet, mergeParts } from './set'

const loader = curtainLoader()
const table = buildPartitions(twoSlotLayout)
const appOf = (more = 0) => curtainApp(more > 0 ? [{ address: 0x42000020, data: noise(more, 7) }] : [])
const app = appOf()

const part = (offset: number, bytes: Uint8Array, file = `at-${offset.toString(16)}.bin`): GivenPart => ({
  file,
  offset,
  bytes,
  sha256: sha256Hex(bytes),
})
const judge = (parts: GivenPart[], family: Family = 'RV32', flashBytes: number | null = null) =>
  judgeSet(parts, { family, flashBytes })
const told = (parts: GivenPart[], family?: Family, flashBytes?: number | null) =>
  judge(parts, family, flashBytes).findings.map((f) => `${f.severity} ${f.code} ${f.at}`)
const whole = [part(0, loader), part(0x8000, table), part(0x10000, app)]

test('the worked example', () => {
  expect(sha256Hex(loader)).toMatch(/^b614b89a.*104828d6$/)
  const set = judge([whole[2], whole[0], whole[1]] as GivenPart[])
  expect(set.parts.map(({ offset, bytes, end, kind }) => [offset, bytes, end, kind])).toEqual([
    [0, 64, 64, 'bootloader'],
    [0x8000, 224, 0x8000 + 224, 'partition-table'],
    [0x10000, 336, 0x10000 + 336, 'app'],
  ])
  expect(set.merged?.bytes).toBe(65_872)
  expect(set.merged?.sha256).toMatch(/^f1d427e5.*8856e4ba$/)
  expect(set.findings.map((f) => [f.code, f.at])).toEqual([
    ['hash-absent', 0],
    ['gap', 64],
    ['gap', 32_992],
  ])
})

describe('what is missing', () => {
  test.each<[string, GivenPart[], string[]]>([
    ['the loader', whole.slice(1), ['error boot-missing 0']],
    ['the table', [whole[0], whole[2]] as GivenPart[], ['error table-missing 32768', 'watch hash-absent 0']],
    ['the program', whole.slice(0, 2), ['error app-missing null', 'watch hash-absent 0']],
  ])('%s', (_, parts, codes) => expect(told(parts).filter((c) => !c.includes('gap'))).toEqual(codes))
  test('a loader that stands where its chip does not look is none', () => {
    const of = (chipId: number) =>
      buildExtended({ ...curtainHead(), chipId, segments: [{ address: 0x3ffb0000, data: new Uint8Array(16) }] })
    expect(told([part(0, of(0))], 'LX6')).toContain('error boot-missing 4096')
    expect(told([part(0x1000, of(0))], 'LX6')).not.toContain('error boot-missing 4096')
    expect(told([part(0, of(9))], 'LX7').join()).not.toContain('boot-missing')
  })
  test('a table elsewhere is none', () =>
    expect(told([part(0, loader), part(0x9000, table), part(0x10000, app)])).toContain('error table-missing 32768'))
  test('LX106 starts from 0, whatever else there is', () => {
    const image = buildLx106({
      mode: 'DOUT',
      sizeCode: 2,
      entry: 0x40100004,
      segments: [{ address: 0x40100000, data: noise(64, 3) }],
    })
    expect(told([part(0x1000, image)], 'LX106')).toEqual(['error app-missing 0'])
    expect(told([part(0, image), part(0x100000, noise(8192, 9))], 'LX106')).toEqual([
      'watch unknown-format 1048576',
      expect.stringMatching(/^ok gap \d+$/),
    ])
  })
  test('a whole chip at 0 brings its loader, its table and its programs', () => {
    const chip = buildChip(0x12000, [
      [0, loader],
      [0x8000, table],
      [0x10000, app],
    ])
    expect(judge([part(0, chip)]).parts[0]?.kind).toBe('merged')
    expect(told([part(0, chip)])).toEqual(['watch hash-absent 0'])
  })
})

describe('where a program stands', () => {
  test('not at the start of a place for programs', () =>
    expect(told([...whole.slice(0, 2), part(0x20000, app)])).toContain('error app-outside-slot 131072'))
  test('in data', () =>
    expect(told([...whole.slice(0, 2), part(0x310000, app)])).toContain('error app-outside-slot 3211264'))
  test('larger than its place, and exactly as large', () => {
    const slot = app.length
    const tableOf = (length: number) =>
      buildPartitions([{ label: 'slot-a', type: 0, subtype: 0x10, offset: 0x10000, length }])
    const at = (length: number) => told([part(0, loader), part(0x8000, tableOf(length)), part(0x10000, app)])
    expect(at(slot - 1)).toContain('error app-larger-than-slot 65536')
    expect(at(slot).join()).not.toContain('app-larger-than-slot')
  })
})

describe('how parts lie', () => {
  test('on each other, each pair at the later one, and then there is no merged file', () => {
    const parts = [part(0, noise(9000, 1), 'a'), part(0x1000, noise(9000, 2), 'b'), part(0x2000, noise(10, 3), 'c')]
    const set = judge(parts, 'CM3')
    expect(set.findings.filter((f) => f.code === 'overlap').map((f) => f.at)).toEqual([0x1000, 0x2000])
    expect([set.merged, set.content]).toEqual([null, null])
  })
  test('end to end is no overlap and leaves no gap', () =>
    expect(told([part(0, noise(4096, 1)), part(4096, noise(10, 2))], 'CM3').join()).not.toMatch(/overlap|gap/))
  test('not at the start of a sector', () =>
    expect(told([part(0x1001, noise(10, 1))], 'CM3')).toContain('error unaligned 4097'))
  test.each<[number | null, number, boolean]>([
    [0x100000, 0xff000, false],
    [0x100000, 0x100000, true],
    [null, 0xfff000, false],
    [null, 0x1000000, true],
  ])('a chip of %p bytes, a sector at %p: past its end is %p', (chip, offset, past) =>
    expect(told([part(offset, noise(4096, 1))], 'CM3', chip).some((c) => c.includes('past-end'))).toBe(past),
  )
  test('the same file twice', () =>
    expect(told([part(0, noise(10, 1)), part(0x1000, noise(10, 1))], 'CM3')).toContain('watch duplicate-part 4096'))
  test('an offset no chip has asks for no memory', () =>
    expect(judge([part(0, noise(10, 1)), part(2 ** 40, noise(10, 2))], 'CM3').merged).toBeNull())
})

describe('what a part is', () => {
  test('data and blanks are watched, wherever they came from', () =>
    expect(told([part(0x4000, new Uint8Array(64).fill(0xff)), part(0x8000, bytesOfLatin1('settings'))], 'CM3')).toEqual(
      ['watch blank-file 16384', 'watch unknown-format 32768', 'ok gap 16448'],
    ))
  test('packed files and containers do not go over wires', () => {
    expect(told([part(0x11000, gzipSync(app))], 'ARM968-A')).toContain('error gzip-over-serial 69632')
    expect(told([part(0x11000, bytesOfLatin1('RBL\0 more'))], 'ARM968-A')).toContain(
      'error container-over-serial 69632',
    )
  })
  test('a file for another family is named at its place', () =>
    expect(told(whole, 'LX7').filter((c) => c.includes('family-mismatch'))).toEqual([
      'error family-mismatch 0',
      'error family-mismatch 65536',
    ]))
  test('an empty one', () => expect(told([part(0, new Uint8Array())], 'CM3')).toEqual(['error empty-file 0']))
})

test('no error: what is written is the merged file; an error: nothing is', () => {
  const good = judge(whole)
  expect(sha256Hex(good.content as Uint8Array)).toBe(good.merged?.sha256)
  const bad = judge(whole.slice(1))
  expect(bad.merged).not.toBeNull()
  expect(bad.content).toBeNull()
})

const places = fc.uniqueArray(fc.nat({ max: 15 }), { minLength: 1, maxLength: 6 })
test('merging keeps every byte at its place and FF everywhere else, in whatever order parts come', () =>
  fc.assert(
    fc.property(places, fc.uint8Array({ minLength: 1, maxLength: 64 }), (slots, bytes) => {
      const parts = slots.map((s) => ({ offset: s * 64, bytes }))
      const merged = mergeParts(parts) as Uint8Array
      expect(merged).toEqual(mergeParts([...parts].reverse()))
      expect(merged.length).toBe(Math.max(...slots) * 64 + bytes.length)
      const expected = buildChip(
        merged.length,
        parts.map((p) => [p.offset, p.bytes]),
      )
      expect(merged).toEqual(expected)
    }),
  ))
test('it is null exactly where two lie on each other', () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(200), fc.integer({ min: 1, max: 60 })), { minLength: 1, maxLength: 5 }),
      (given) => {
        const parts = given.map(([offset, length]) => ({ offset, bytes: new Uint8Array(length) }))
        const clash = parts.some((a, i) =>
          parts.some((b, j) => i < j && a.offset < b.offset + b.bytes.length && b.offset < a.offset + a.bytes.length),
        )
        expect(mergeParts(parts) === null).toBe(clash)
      },
    ),
  ))
