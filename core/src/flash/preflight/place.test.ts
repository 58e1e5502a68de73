import { buildLx106Second, buildPartitions, noise, twoSlotLayout } from '../../image/build'
import { inspectImage } from '../../image/inspect'
import { readTableFile } from '../../image/partitions'
import { curtainApp, curtainLoader } from '../../testing/curtain'
import { placeFindings } from './place'
import type { PreflightUnit, WriteWish } from './question'

/** Where a file belongs in a chip, and what is said of an offset that is another one. */
const layout = readTableFile(buildPartitions(twoSlotLayout), 0, 2 ** 22).table
const rv32: PreflightUnit = {
  family: 'RV32',
  familyVerdict: 'identified',
  flashBytes: 2 ** 22,
  flashId: null,
  dataLines: 2,
  inPackageFlash: false,
  provenModes: [],
  backup: { state: 'verified', bytes: 2 ** 22, reason: null },
  layout,
}
const wish: WriteWish = {
  fileName: 'curtain.bin',
  offset: null,
  eraseAll: false,
  baud: 115_200,
  verify: 'digest',
  variant: null,
  language: null,
  profileOffset: null,
}
const app = curtainApp()
const place = (bytes: Uint8Array, unit: Partial<PreflightUnit> = {}, more: Partial<WriteWish> = {}, keepBelow = 0) => {
  const out = placeFindings({ ...rv32, ...unit }, inspectImage(bytes), { ...wish, ...more }, keepBelow)
  return { ...out, findings: out.findings.map((f) => f.code) }
}

describe('where a file belongs', () => {
  test.each<[string, Uint8Array, number]>([
    ['a program: into the first slot', app, 0x10000],
    ['a loader: where its chip looks for one', curtainLoader(), 0],
    ['a table', buildPartitions(twoSlotLayout), 0x8000],
  ])('%s', (_, bytes, offset) => expect(place(bytes)).toEqual({ expected: offset, offset, findings: [] }))
  test('a program goes to the slot that was asked for, where there is one', () =>
    expect(place(app, {}, { offset: 0x190000 })).toEqual({ expected: 0x190000, offset: 0x190000, findings: [] }))
  test('a program whose chip’s layout nobody knows belongs nowhere yet', () =>
    expect(place(app, { layout: null })).toMatchObject({ expected: null, findings: ['layout-missing'] }))
  test('a program that is larger than its slot', () => {
    const small = twoSlotLayout.map((e) => (e.label === 'slot-a' ? { ...e, length: 0x1000 } : e))
    const table = readTableFile(buildPartitions(small), 0, 2 ** 22).table
    const large = curtainApp([{ address: 0x42000020, data: noise(8192, 3) }])
    expect(place(large, { layout: table }).findings).toEqual(['slot-too-small'])
  })
  test('a second image of LX106 lives behind a loader, and does not start alone', () => {
    const second = buildLx106Second(
      { mode: 'DIO', sizeCode: 2, entry: 0x40100010, segments: [{ address: 0x40100000, data: new Uint8Array(64) }] },
      new Uint8Array(64),
    )
    expect(place(second, { family: 'LX106', flashBytes: 2 ** 20, layout: null })).toMatchObject({
      expected: 0x1000,
      findings: ['needs-boot-loader'],
    })
  })
  test('a family whose files say nothing is placed by the profile, then by a person, and else not at all', () => {
    const cm3 = { family: 'CM3' as const, layout: null }
    const blob = noise(4096, 9)
    expect(place(blob, cm3)).toMatchObject({ expected: null, findings: ['offset-unknown'] })
    expect(place(blob, cm3, { profileOffset: 0x2000 })).toMatchObject({
      expected: 0x2000,
      offset: 0x2000,
      findings: [],
    })
    expect(place(blob, cm3, { offset: 0x3000 })).toMatchObject({ expected: 0x3000, findings: [] })
  })
})

describe('an offset that is another one', () => {
  test.each<[string, Partial<WriteWish>, number, string[]]>([
    ['where it does not belong', { offset: 0x20000 }, 0, ['offset-wrong']],
    ['inside a sector', { offset: 0x10100 }, 0, ['offset-wrong', 'offset-unaligned']],
    ['below what is never written', { offset: 0x10000 }, 0x11000, ['keeps-boot-loader']],
    [
      'above it, but the whole chip was to be erased',
      { offset: 0x11000, eraseAll: true },
      0x11000,
      ['keeps-boot-loader'],
    ],
  ])('%s', (_, more, keepBelow, codes) => expect(place(app, {}, more, keepBelow).findings).toEqual(codes))
  test('a file that ends past the end of the chip, and one that ends with it', () => {
    const bytes = buildPartitions(twoSlotLayout).length
    expect(place(buildPartitions(twoSlotLayout), { flashBytes: 0x8000 + bytes - 1 }).findings).toEqual(['past-end'])
    expect(place(buildPartitions(twoSlotLayout), { flashBytes: 0x8000 + bytes }).findings).toEqual([])
    expect(place(buildPartitions(twoSlotLayout), { flashBytes: null }).findings).toEqual([])
  })
})
