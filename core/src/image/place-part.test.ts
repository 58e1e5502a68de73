import { curtainApp, curtainLoader } from '../testing/curtain'
import { buildChip, buildLx106, buildPartitions, noise, twoSlotLayout } from './build'
import { inspectImage } from './inspect'
import { guessOffsets, type PartToPlace } from './place-part'

const partOf = (bytes: Uint8Array, name = 'part.bin', family: 'RV32' | 'LX6' | 'LX106' = 'RV32'): PartToPlace => ({
  name,
  bytes: bytes.length,
  inspection: inspectImage(bytes, { family }),
})
const loader = curtainLoader
const app = curtainApp()
const table = buildPartitions(twoSlotLayout)

test('loader, table and program lie where their chip looks for them, whatever they are called', () => {
  const parts = [partOf(app, 'loader_0x0.bin'), partOf(table), partOf(loader(5))]
  expect(guessOffsets(parts, 'RV32')).toEqual([0x10000, 0x8000, 0])
  expect(guessOffsets([partOf(loader(0), 'a', 'LX6')], 'LX6')).toEqual([0x1000])
})

test('a program goes to the first slot of the table that has room for it, and without a table to the usual place', () => {
  const moved = twoSlotLayout.map((e, i) => ({ ...e, offset: i === 0 ? e.offset : e.offset + 0x10000 }))
  const [slot] = moved.filter((e) => e.type === 0)
  expect(guessOffsets([partOf(buildPartitions(moved)), partOf(app)], 'RV32')[1]).toBe(slot?.offset)
  expect(guessOffsets([partOf(app)], 'RV32')).toEqual([0x10000])
})

test('an image of a family without partitions, and a whole chip, begin at 0', () => {
  const image = buildLx106({
    segments: [{ address: 0x40100000, data: noise(64, 1) }],
    mode: 'DOUT',
    sizeCode: 2,
    clock: 0,
    entry: 0x40100000,
  })
  expect(guessOffsets([partOf(image, 'x', 'LX106')], 'LX106')).toEqual([0])
  const chip = buildChip(0x20000, [
    [0, loader(5)],
    [0x8000, table],
    [0x10000, app],
  ])
  expect(guessOffsets([partOf(chip)], 'RV32')).toEqual([0])
})

test('data: the length of one partition, then the number in the name; two numbers, or none, are no answer', () => {
  const data = twoSlotLayout.filter((e) => e.type !== 0)
  const [one] = data.filter((e) => data.filter((d) => d.length === e.length).length === 1)
  if (!one) throw new Error('the layout has no data partition of its own length')
  const bytes = noise(one.length, 3)
  expect(guessOffsets([partOf(table), partOf(bytes, 'x_0x9000.bin')], 'RV32')[1]).toBe(one.offset)
  // As long as the partition of the radio's calibration, and still not for it.
  expect(guessOffsets([partOf(table), partOf(noise(0x1000, 5))], 'RV32')[1]).toBe(null)
  const odd = noise(100, 4)
  expect(
    guessOffsets(
      ['x_0x9000.bin', '0x1_0x2.bin', 'settings.bin', 'a0x9000.bin'].map((n) => partOf(odd, n)),
      'RV32',
    ),
  ).toEqual([0x9000, null, null, null])
})
