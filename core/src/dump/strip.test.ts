import fc from 'fast-check'
import { buildChip, buildLx106, buildPartitions, noise, twoSlotLayout } from '../image/build'
import type { LayoutRegion } from '../image/partitions'
import { readTableFile } from '../image/partitions'
import { structureOf } from '../image/structure'
import type { Run } from './sectors'
import { sectorRuns } from './sectors'
import { outsideLabels, regionsOf, stripOf } from './strip'

const mib = 1048576
const table = buildPartitions(twoSlotLayout)

describe('the flash as a strip', () => {
  test('the worked drawing: 960 wide for 4 MiB', () => {
    const layout = readTableFile(table, 0x8000, 4 * mib).table?.layout as LayoutRegion[]
    const drawn = stripOf(layout, 4 * mib, 960).map((p) => [p.region.label, p.x, p.w])
    const expected = [
      ['boot', 0, 7.5],
      ['partition table', 7.5, 3],
      ['kv', 8.4, 3.8],
      ['select', 12.2, 3],
      ['phy', 14.1, 3],
      ['slot-a', 15, 360],
      ['slot-b', 375, 360],
      ['web', 735, 225],
    ] as const
    expect(drawn.map((d) => d[0])).toEqual(expected.map((e) => e[0]))
    expected.forEach(([, x, w], i) => {
      expect(Math.abs((drawn[i]?.[1] as number) - x)).toBeLessThanOrEqual(0.1)
      expect(Math.abs((drawn[i]?.[2] as number) - w)).toBeLessThanOrEqual(0.1)
    })
  })
  test('a label stands outside where the piece is narrower than six times its letters', () => {
    const region = (label: string, offset: number, length: number): LayoutRegion => ({
      kind: 'partition',
      label,
      offset,
      length,
    })
    const [fits, not] = stripOf([region('abc', 0, 18), region('abcd', 18, 23)], 100, 100)
    expect([fits?.outside, not?.outside]).toEqual([false, true])
  })
  test('no label outside covers another, and none leaves the strip', () =>
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(5000), fc.stringMatching(/^[a-z]{1,15}$/)), { maxLength: 30 }), (given) => {
        const regions = given
          .map(([offset, label]): LayoutRegion => ({ kind: 'partition', label, offset, length: 1 }))
          .sort((a, b) => a.offset - b.offset)
        const labels = outsideLabels(stripOf(regions, 5001, 960), 960)
        for (const [i, a] of labels.entries()) {
          expect(a.x).toBeGreaterThanOrEqual(0)
          expect(a.x + a.label.length * 6).toBeLessThanOrEqual(960)
          for (const b of labels.slice(i + 1))
            if (a.row === b.row) expect(a.x + a.label.length * 6 <= b.x || b.x + b.label.length * 6 <= a.x).toBe(true)
        }
      }),
    ))
})

describe('an LX106, which has no table', () => {
  const image = (n: number) =>
    buildLx106({
      mode: 'DOUT',
      sizeCode: 2,
      entry: 0x40100004,
      segments: [{ address: 0x40100000, data: noise(n, 5) }],
    })
  const regions = (chip: Uint8Array) => {
    const images = structureOf(chip, { flashBytes: chip.length, loaderAnywhereBelow: true })?.images ?? []
    return regionsOf({ family: 'LX106', images }, sectorRuns(chip), chip.length)
  }
  test('program, free, files, settings', () => {
    const chip = buildChip(mib, [
      [0, image(40_000)],
      [0x60000, noise(9000, 7)],
      [0xfd000, noise(64, 7)],
    ])
    expect(regions(chip).map((r) => [r.label || r.kind, r.offset, r.length])).toEqual([
      ['program', 0, 40_032],
      ['gap', 40_032, 0x60000 - 40_032],
      ['files', 0x60000, 0x3000],
      ['gap', 0x63000, 0xfb000 - 0x63000],
      ['settings', 0xfb000, 0x5000],
    ])
  })
  test('a loader with the program behind it', () => {
    const chip = buildChip(mib, [
      [0, image(1000)],
      [0x1000, image(30_000)],
    ])
    expect(regions(chip).map((r) => r.label || r.kind)).toEqual(['loader', 'gap', 'program', 'gap', 'settings'])
  })
  test('a file of another family without a table has no regions', () =>
    expect(regionsOf({ family: 'CM3' }, [['high', 4]], 16384)).toEqual([]))
  test('whatever is in it, the pieces follow each other from 0 to the end', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('blank', 'zero', 'mid', 'high'), fc.integer({ min: 1, max: 60 })), {
          minLength: 1,
          maxLength: 12,
        }),
        (given) => {
          const runs = given as Run[]
          const size = runs.reduce((n, [, k]) => n + k, 0) * 4096
          let end = 0
          for (const r of regionsOf({ family: 'LX106' }, runs, size)) {
            expect(r.offset).toBe(end)
            expect(r.length).toBeGreaterThan(0)
            end += r.length
          }
          expect(end).toBe(size)
        },
      ),
    ))
})
