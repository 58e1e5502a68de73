import { curtainApp, curtainHead, curtainLoader } from '../testing/curtain'
import { buildChip, buildExtended, buildPartitions, noise, twoSlotLayout } from './build'
import { inspectImage } from './inspect'

/** What stands in the partitions of a whole-chip file. */
const table = buildPartitions(twoSlotLayout)
const chip = (...parts: [number, Uint8Array][]) =>
  inspectImage(buildChip(2 ** 22, [[0, curtainLoader()], [0x8000, table], ...parts]))
const told = (found: ReturnType<typeof chip>) => found.findings.map((f) => [f.code, f.at])
const segment = { address: 0x3c000020, data: noise(64, 3) }

test('programs of every slot are found, blank slots are none', () => {
  const one = chip([0x10000, curtainApp()])
  expect(one.images.map((i) => i.offset)).toEqual([0, 0x10000])
  const two = chip([0x10000, curtainApp()], [0x190000, curtainApp()])
  expect(two.images.map((i) => i.offset)).toEqual([0, 0x10000, 0x190000])
})
test('a slot that holds something else than a program', () =>
  expect(told(chip([0x10000, curtainApp()], [0x190000, Uint8Array.of(0x55, 1, 2, 3)]))).toContainEqual([
    'app-bad-magic',
    0x190000,
  ]))
test('a program for another chip than its loader', () => {
  const other = buildExtended({ ...curtainHead(9), segments: [segment] })
  expect(told(chip([0x10000, other]))).toContainEqual(['chip-mixed', 0x10000])
  expect(told(chip([0x10000, curtainApp()])).map(([code]) => code)).not.toContain('chip-mixed')
})
test('a program that does not fit its partition', () => {
  const small = buildPartitions(twoSlotLayout.map((e) => (e.label === 'slot-a' ? { ...e, length: 0x1000 } : e)))
  const large = curtainApp([{ address: 0x42000020, data: noise(8192, 3) }])
  const found = inspectImage(
    buildChip(2 ** 22, [
      [0, curtainLoader()],
      [0x8000, small],
      [0x10000, large],
    ]),
  )
  expect(told(found)).toContainEqual(['slot-too-small', 0x10000])
})
