import { LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { newLine } from '@fresh-coat/core/link/flow'
import { identify, OtherUnit, Silent } from '@fresh-coat/core/link/identity'
import { readFlash } from '@fresh-coat/core/link/reading'
import { linkTime } from '@fresh-coat/core/link/time'
import { ChipSpec, type Fault } from '@/standins/chip/chip-spec'
import { VirtualLink } from '@/standins/chip/virtual-link'

const ids = { LX106: ['684014', 2 ** 20], LX6: ['204016', 2 ** 22], RV32: ['204016', 2 ** 22] } as const
type Family = keyof typeof ids
const spec = (family: Family, faults: Fault[] = [], more: object = {}) =>
  ChipSpec.parse({ family, flashId: ids[family][0], flashBytes: ids[family][1], faults, ...more })

async function read(chip: ChipSpec, offset: number, bytes: number) {
  const link = new VirtualLink(chip, 115_200)
  const line = newLine(115_200, 400 + 4 * chip.latencyMs)
  const who = await drive(identify(line, 20), link)
  const out = new Uint8Array(bytes)
  const whole: number[] = []
  const began = link.now()
  await drive(readFlash(line, who, offset, bytes), link, {
    onBytes: (at, part) => {
      whole.push(at)
      out.set(part, at)
    },
  })
  return { out, there: link.flash.slice(offset, offset + bytes), line, whole, seconds: (link.now() - began) / 1000 }
}

test.each(['LX106', 'LX6', 'RV32'] as const)(
  '%s: what is read is what stands in the chip, sector by sector',
  async (family) => {
    const { out, there, whole } = await read(spec(family), 4096, 3 * 4096 + 100)
    expect(out).toEqual(there)
    expect(new Set(there).size).toBeGreaterThan(100)
    expect(whole).toEqual([0, 4096, 8192, 12_288])
  },
)

test('a read may begin and end anywhere', async () => {
  for (const [offset, bytes] of [
    [1, 1],
    [4090, 20],
    [30_000, 65],
  ] as const)
    for (const family of ['LX106', 'LX6'] as const) {
      const { out, there } = await read(spec(family), offset, bytes)
      expect(out).toEqual(there)
    }
})

describe('a bad line', () => {
  test.each<[string, Fault]>([
    ['an answer that is lost', { fault: 'lose', answer: 60 }],
    ['one that comes late', { fault: 'late', answer: 70, ms: 1500 }],
    ['requests that are not heard', { fault: 'mute', request: 50, count: 3 }],
    ['a byte dropped on the way back', { fault: 'drop', to: 'host', at: 3000 }],
    ['a byte doubled on the way to it', { fault: 'duplicate', to: 'chip', at: 906 }],
  ])('%s: the sector is read again, and what is kept is right', async (_, fault) => {
    for (const family of ['LX106', 'LX6'] as const) {
      const { out, there, line } = await read(spec(family, [fault]), 0, 4096)
      expect(out).toEqual(there)
      expect(line.counts.resumes).toBeGreaterThan(0)
    }
  })
  test('wherever an answer is lost or late, nothing wrong is kept', async () => {
    for (let answer = 30; answer < 100; answer += 19)
      for (const fault of [{ fault: 'lose', answer } as const, { fault: 'late', answer, ms: 500 } as const]) {
        const { out, there } = await read(spec('LX106', [fault]), 8192, 4096)
        expect(out).toEqual(there)
      }
  })
  test('one that is never heard again ends it, and does not go on for ever', async () =>
    await expect(read(spec('LX6', [{ fault: 'mute', request: 60, count: 1_000_000 }]), 0, 8192)).rejects.toThrow(
      Silent,
    ))
  test('a plug that is pulled ends it at once', async () =>
    await expect(read(spec('LX6', [{ fault: 'unplug', after: 5000 }]), 0, 65_536)).rejects.toThrow(LineLost))
})

test('another unit in the middle is not read on', async () => {
  const line = newLine(115_200, 404)
  const first = new VirtualLink(spec('LX6'), 115_200)
  const who = await drive(identify(line, 20), first)
  const second = new VirtualLink(spec('LX6', [], { mac: '02:4c:59:10:20:99' }), 115_200)
  const other = newLine(115_200, 404)
  await drive(identify(other, 20), second)
  await expect(drive(readFlash(other, who, 0, 4096), second)).rejects.toThrow(OtherUnit)
})

test.each([
  ['LX106', 'read-registers'],
  ['LX6', 'read-rom'],
] as const)('%s: it takes as long as was said before', async (family, action) => {
  const { seconds } = await read(spec(family, [], { latencyMs: 4 }), 32_768, 16_384)
  const said = linkTime({ family, action, bytes: 16_384, rate: 115_200, latencyMs: 4 })
  const expected = said.ok ? said.value.seconds : 0
  expect(seconds / expected).toBeGreaterThan(0.97)
  expect(seconds / expected).toBeLessThan(1.08)
})
