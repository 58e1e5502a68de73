import { drive } from '@fresh-coat/core/link/drive'
import { newLine, type WriteNote } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { type WriteEnd, writeRegion } from '@fresh-coat/core/link/writing'
import { ChipSpec, type Fault } from '@/standins/chip/chip-spec'
import { VirtualLink } from '@/standins/chip/virtual-link'
import { seededRandom } from '../random'

const ids = { LX106: ['684012', 2 ** 18], LX6: ['204012', 2 ** 18], RV32: ['204012', 2 ** 18] } as const
type Family = keyof typeof ids
const families = ['LX106', 'LX6', 'RV32'] as const
const spec = (family: Family, faults: Fault[] = [], more: object = {}) =>
  ChipSpec.parse({ family, flashId: ids[family][0], flashBytes: ids[family][1], faults, ...more })
function image(bytes: number): Uint8Array {
  const random = seededRandom(bytes)
  return Uint8Array.from({ length: bytes }, () => Math.floor(random() * 256))
}

async function write(chip: ChipSpec, offset: number, data: Uint8Array) {
  const link = new VirtualLink(chip, 115_200)
  const line = newLine(115_200, 400 + 4 * chip.latencyMs)
  const who = await drive(identify(line, 20), link)
  const before = link.flash.slice()
  const notes: WriteNote[] = []
  const end: WriteEnd = await drive(writeRegion(line, who, { offset, data }), link, {
    onNote: (n) => void notes.push(n),
  })
  return { end, before, after: link.flash, notes, line }
}
/** Every byte of the chip as it has to be: the data, FF to the end of its last sector, and nothing else changed. */
function expected(before: Uint8Array, offset: number, data: Uint8Array): Uint8Array {
  const out = before.slice()
  out.fill(0xff, offset, offset + Math.ceil(data.length / 4096) * 4096)
  out.set(data, offset)
  return out
}
const equal = (a: Uint8Array, b: Uint8Array) => Buffer.compare(Buffer.from(a), Buffer.from(b)) === 0

describe('on a good line', () => {
  test.each(families.flatMap((f) => [0, 61_440].map((o) => [f, o] as const)))(
    '%s at %i: the data stands there, and not one byte beside it has changed',
    async (family, offset) => {
      for (const bytes of [1, 4096, 18_016]) {
        const data = image(bytes)
        const { end, before, after } = await write(spec(family), offset, data)
        expect(end).toEqual({ outcome: 'written' })
        expect(equal(after, expected(before, offset, data))).toBe(true)
      }
    },
  )
  test('on the ROM that erases in pairs the sector that goes along is read first, noted, and written back', async () => {
    const { notes, before } = await write(spec('LX106'), 0, image(18_016))
    expect(notes[0]?.carried?.offset).toBe(5 * 4096)
    expect(equal(notes[0]?.carried?.bytes as Uint8Array, before.slice(20_480, 24_576))).toBe(true)
    // It is noted before anything is erased.
    expect(notes[0]?.confirmedBlocks).toBe(0)
    expect((await write(spec('LX6'), 0, image(18_016))).notes[0]?.carried).toBeNull()
  })
  test('at the end of the chip the sector before goes along: the extra one would wrap to its start', async () => {
    const offset = 2 ** 18 - 4096
    const data = image(4096)
    const { end, before, after, notes } = await write(spec('LX106'), offset, data)
    expect(end).toEqual({ outcome: 'written' })
    expect(notes[0]?.carried?.offset).toBe(offset - 4096)
    expect(equal(after, expected(before, offset, data))).toBe(true)
  })
  test('what is noted never runs ahead of what stands in the chip, and ends at its end', async () => {
    const { notes } = await write(spec('LX6'), 0, image(20_000))
    const confirmed = notes.map((n) => n.confirmedBlocks)
    expect(confirmed).toEqual([...confirmed].sort((a, b) => a - b))
    expect(confirmed.at(-1)).toBe(20)
  })
})

describe.each(['pointer', 'strict'] as const)('on a bad line, where the ROM’s numbers are a %s', (sequence) => {
  const bad = async (family: Family, fault: Fault) => {
    const data = image(6144)
    const out = await write(spec(family, [fault], { sequence }), 8192, data)
    return { ...out, right: equal(out.after, expected(out.before, 8192, data)) }
  }
  test('wherever an answer is lost or late, it ends right', async () => {
    for (const family of families)
      for (let answer = 14; answer < 120; answer += 37)
        for (const fault of [{ fault: 'lose', answer } as const, { fault: 'late', answer, ms: 3500 } as const]) {
          const { end, right } = await bad(family, fault)
          expect({ family, fault, end, right }).toEqual({ family, fault, end: { outcome: 'written' }, right: true })
        }
  })
  test('a byte lost, doubled or flipped on the way to it', async () => {
    for (const family of ['LX106', 'LX6'] as const)
      for (const fault of ['drop', 'duplicate', 'flip'] as const) {
        const { end, right } = await bad(family, { fault, to: 'chip', at: family === 'LX106' ? 24_000 : 6000 })
        expect({ family, fault, end, right }).toEqual({ family, fault, end: { outcome: 'written' }, right: true })
      }
  })
})

test('a chip that is not heard again is half written, and it is said from where', async () => {
  const { end } = await write(spec('LX6', [{ fault: 'mute', request: 30, count: 1_000_000 }]), 0, image(40_000))
  expect(end).toMatchObject({ outcome: 'lost-midway' })
})
