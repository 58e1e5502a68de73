import { bytesOfHex } from '@fresh-coat/core/bytes/text'
import { LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { newLine } from '@fresh-coat/core/link/flow'
import { type Identity, identify } from '@fresh-coat/core/link/identity'
import { beginJournal, isOpen, type Journal, noted, resumedFrom, resumeFindings } from '@fresh-coat/core/link/journal'
import { testLine } from '@fresh-coat/core/link/line-test'
import { measureLine } from '@fresh-coat/core/link/measure'
import {
  type ExpectedUnit,
  nothingWritten,
  type WholeWrite,
  type WholeWritten,
  writeWhole,
} from '@fresh-coat/core/link/whole-write'
import { ChipSpec } from '@/standins/chip/chip-spec'
import { VirtualLink } from '@/standins/chip/virtual-link'
import { seededRandom } from '../random'

const flashBytes = 2 ** 18
const ids = { LX106: '684012', LX6: '204012', RV32: '204012' } as const
type Family = keyof typeof ids
const families = ['LX106', 'LX6', 'RV32'] as const
const spec = (family: Family, faults: object[] = [], more: object = {}) =>
  ChipSpec.parse({ family, flashId: ids[family], flashBytes, faults, ...more })
function image(bytes: number): Uint8Array {
  const random = seededRandom(bytes)
  return Uint8Array.from({ length: bytes }, () => Math.floor(random() * 256))
}
const nobodyKnows: ExpectedUnit = { family: null, mac: null, flashId: null, flashBytes: null }
const file = (data: Uint8Array) => ({ sha256: `of ${data.length}`, bytes: data.length })
const at = '2026-11-28T10:00:00Z'

interface Ran {
  out: WholeWritten
  before: Uint8Array
  link: VirtualLink
  journal: Journal | null
  who: Identity
  notedBeforeErase: boolean
}
async function write(
  chip: ChipSpec,
  more: Partial<WholeWrite> & { data: Uint8Array },
  { expected = nobodyKnows, stands = null as Uint8Array | null, cancelAfter = -1 } = {},
): Promise<Ran> {
  const link = new VirtualLink(chip, 115_200, stands)
  const line = newLine(115_200, 400)
  const before = link.flash.slice()
  const who = await drive(identify(line, 20), link)
  const wish: WholeWrite = {
    offset: 8192,
    eraseAll: false,
    verify: chip.family === 'LX106' ? 'readback' : 'digest',
    seed: 1,
    mayChangeRate: false,
    resume: null,
    ...more,
  }
  let journal: Journal | null = null
  let notedBeforeErase = true
  const out = nothingWritten(wish.verify)
  let boundaries = 0
  try {
    await drive(writeWhole(line, who, expected, wish, out), link, {
      cancelled: () => cancelAfter >= 0 && boundaries++ >= cancelAfter,
      onNote: (n) => {
        if (journal === null) notedBeforeErase = equal(link.flash, before)
        journal = noted(
          journal ?? beginJournal({ unit: null, who, file: file(wish.data), offset: wish.offset, rate: 115_200, at }),
          n,
          at,
        )
      },
    })
  } catch (cause) {
    if (!(cause instanceof LineLost)) throw cause
    out.outcome = 'lost-midway'
  }
  return { out, before, link, journal, who, notedBeforeErase }
}
const equal = (a: Uint8Array, b: Uint8Array) => Buffer.compare(Buffer.from(a), Buffer.from(b)) === 0
function expected(before: Uint8Array, offset: number, data: Uint8Array): Uint8Array {
  const out = before.slice()
  out.fill(0xff, offset, offset + Math.ceil(data.length / 4096) * 4096)
  out.set(data, offset)
  return out
}
const codes = (out: WholeWritten) => out.findings.map((f) => f.code)

describe('a write from the first look to its proof', () => {
  test.each(families)('%s: written, proven, and nothing beside it has changed', async (family) => {
    const data = image(10_000)
    const { out, before, link, notedBeforeErase } = await write(spec(family), { data })
    expect([out.outcome, out.verify.ok, out.blocks.resent]).toEqual(['done', true, 0])
    expect(equal(link.flash, expected(before, 8192, data))).toBe(true)
    expect(notedBeforeErase).toBe(true)
  })
  test('the whole chip erased: only the file stands in it', async () => {
    for (const family of families) {
      const data = image(5000)
      const { out, link, notedBeforeErase } = await write(spec(family), { data, eraseAll: true })
      expect([out.outcome, notedBeforeErase]).toEqual(['done', true])
      expect(equal(link.flash, expected(new Uint8Array(flashBytes).fill(0xff), 8192, data))).toBe(true)
    }
  })
  test('gone on with before a block was confirmed, the whole chip is erased once more: nobody knows how far that came', async () => {
    const data = image(5000)
    const resume = { confirmedBlocks: 0, carried: null }
    const { out, link } = await write(spec('LX6'), { data, eraseAll: true, resume })
    expect(out.outcome).toBe('done')
    expect(equal(link.flash, expected(new Uint8Array(flashBytes).fill(0xff), 8192, data))).toBe(true)
  })
  test('a stop while it is compared is heard: written, and not called proven', async () => {
    const { out } = await write(spec('LX106'), { data: image(9000) }, { cancelAfter: 18 })
    expect([out.outcome, out.verify.ok, codes(out).includes('link-cancelled')]).toEqual(['done', null, true])
  })
  test('the sector that the ROM takes along is named before the erase', async () => {
    const { out } = await write(spec('LX106'), { data: image(20_000), offset: 0 })
    expect(out.findings.find((f) => f.code === 'link-erases-more')?.at).toBe(5 * 4096)
    expect(out.regions).toEqual([{ offset: 0, bytes: 20_000, sizeField: 3 * 4096, erasedBytes: 6 * 4096 }])
  })
  test('a sample says that it is one, and a write without a check that there was none', async () => {
    const sampled = (await write(spec('LX106'), { data: image(30_000), verify: 'sample' })).out
    expect([sampled.outcome, codes(sampled).includes('link-sampled')]).toEqual(['done', true])
    const none = (await write(spec('LX6'), { data: image(3000), verify: 'none' })).out
    expect([none.outcome, none.verify.ok, codes(none)]).toEqual(['done', null, ['link-verify-none']])
  })
})

describe('refused before anything is erased', () => {
  test.each<[string, Partial<ExpectedUnit>, string]>([
    ['another family', { family: 'RV32' }, 'family-mismatch'],
    ['another address', { mac: '02:4c:59:10:20:99' }, 'link-other-unit'],
    ['another flash', { flashId: '684016' }, 'flash-id-mismatch'],
    ['another size', { flashBytes: 2 ** 20 }, 'flash-id-mismatch'],
  ])('%s', async (_, differs, code) => {
    const { out, link, before } = await write(
      spec('LX6'),
      { data: image(3000) },
      { expected: { ...nobodyKnows, ...differs } },
    )
    expect([out.outcome, codes(out), out.regions]).toEqual(['refused', [code], []])
    expect(equal(link.flash, before)).toBe(true)
  })
  test('a digest of a ROM that has none', async () =>
    expect(codes((await write(spec('LX106'), { data: image(3000), verify: 'digest' })).out)).toEqual([
      'link-no-digest',
    ]))
  test('a chip that falls silent while the line is tried', async () => {
    const { out, link, before } = await write(spec('LX6', [{ mute: { request: 60, count: 1_000_000 } }]), {
      data: image(3000),
    })
    expect([out.outcome, codes(out), equal(link.flash, before)]).toEqual(['no-answer', ['link-no-answer'], true])
  })
  test('a flash that does not say its size', async () => {
    const { out } = await write(spec('LX6', [], { flashId: 'ffffff' }), { data: image(3000) })
    expect([out.outcome, codes(out)]).toEqual(['refused', ['flash-id-mismatch']])
  })
  test('a noisy line', async () => {
    const noise = [{ flip: { to: 'host', at: 2000, every: 97 } }]
    const { out, link, before } = await write(spec('LX6', noise), { data: image(3000) })
    expect(out.outcome).toBe('refused')
    expect(out.findings.some((f) => f.code === 'link-noisy' && f.severity === 'error')).toBe(true)
    expect(equal(link.flash, before)).toBe(true)
  })
  test('a person who stops before the erase', async () => {
    const { out, link, before } = await write(spec('LX6'), { data: image(3000) }, { cancelAfter: 0 })
    expect([out.outcome, equal(link.flash, before)]).toEqual(['cancelled', true])
  })
})

test('a few exchanges that go wrong once are tested again, and said', async () => {
  const { out } = await write(spec('LX6', [{ mute: { request: 40, count: 3 } }]), { data: image(3000) })
  expect(out.outcome).toBe('done')
  expect(out.findings.find((f) => f.code === 'link-noisy')?.severity).toBe('watch')
})

test('the test of a line counts what was wrong and what did not come', async () => {
  const link = new VirtualLink(spec('LX6', [{ lose: { answer: 60 } }, { flip: { to: 'host', at: 2511 } }]), 115_200)
  const line = newLine(115_200, 400)
  const who = await drive(identify(line, 20), link)
  const test = await drive(testLine(line, who), link)
  expect(test.reads).toBe(200)
  expect(test.wrong + test.timedOut).toBeGreaterThan(0)
})

test.each([
  ['LX6', 1, [true, true, true, true], 921_600],
  ['LX106', 16, [true], 115_200],
] as const)('%s: what its line is worth, by its own clock', async (family, latencyMs, holds, best) => {
  const link = new VirtualLink(spec(family, [], { latencyMs }), 115_200)
  const line = newLine(115_200, 400 + 4 * latencyMs)
  const who = await drive(identify(line, 20), link)
  const measured = await drive(measureLine(line, who, family === 'LX6'), link)
  expect(measured.rates.map((r) => r.holds)).toEqual(holds)
  expect(measured.bestRate).toBe(best)
  expect(Math.abs((measured.latencyMs ?? 0) - latencyMs)).toBeLessThan(1)
  // It is left at the rate of its first sync.
  expect((await drive(identify(newLine(115_200, 400), 3), link)).family).toBe(family)
})

describe('the chip itself', () => {
  test('restarts with its strap held: gone on with, counted, and right', async () => {
    for (const family of families) {
      const data = image(12_000)
      const { out, before, link } = await write(spec(family, [{ brownout: { block: 6, strap: 'held' } }]), { data })
      expect([out.outcome, codes(out).includes('link-restarted')]).toEqual(['done', true])
      expect(equal(link.flash, expected(before, 8192, data))).toBe(true)
    }
  })
  test('a cell that takes its bits at the third try', async () => {
    const data = image(6000).fill(0, 100, 200)
    const { out, before, link } = await write(
      spec('LX6', [{ weak: { address: 8192 + 150, mask: 1, times: 2 } }], {}),
      { data },
      { stands: new Uint8Array(flashBytes).fill(0xff) },
    )
    expect(out.outcome).toBe('done')
    expect(equal(link.flash, expected(before, 8192, data))).toBe(true)
  })
  test('a cell that never takes them is refused, and nothing is called done', async () => {
    const data = image(6000).fill(0, 100, 200)
    const { out } = await write(spec('LX106', [{ weak: { address: 8192 + 150, mask: 1, times: 1000 } }]), { data })
    expect([out.outcome, codes(out).includes('link-block-refused')]).toEqual(['verify-failed', true])
  })
})

describe('finished from its journal', () => {
  test.each(families)('%s: lost with its strap free, and gone on with after a new entry', async (family) => {
    const data = image(14_336)
    const lost = await write(spec(family, [{ brownout: { block: 9, strap: 'free' } }]), { data })
    expect(lost.out.outcome).toBe('lost-midway')
    const journal = lost.journal as Journal
    expect(isOpen(journal)).toBe(true)
    expect(resumeFindings(journal, lost.who, file(data), 8192)).toEqual([])
    const resume = resumedFrom(journal)
    expect(resume.confirmedBlocks).toBeGreaterThan(0)
    const again = await write(spec(family), { data, resume }, { stands: lost.link.flash })
    expect([again.out.outcome, again.out.verify.ok]).toEqual(['done', true])
    expect(again.out.blocks.sent).toBeLessThan(again.out.blocks.total)
    expect(equal(again.link.flash, expected(lost.before, 8192, data))).toBe(true)
  })
  test('of another file, place, unit or flash it is not gone on with', async () => {
    const data = image(9000)
    const { journal, who } = await write(spec('LX6'), { data })
    const kept = journal as Journal
    const found = (w: Partial<Identity>, f = file(data), offset = 8192) =>
      resumeFindings(kept, { ...who, ...w }, f, offset).map((x) => x.code)
    expect(found({}, file(image(10)))).toEqual(['journal-file'])
    expect(found({}, file(data), 0)).toEqual(['journal-file'])
    expect(found({ mac: '02:4c:59:10:20:99' })).toEqual(['link-other-unit'])
    expect(found({ flashId: '684016' })).toEqual(['flash-id-mismatch'])
    expect(found({ family: 'RV32' })).toEqual(['family-mismatch'])
  })
  test('it holds the bytes of the sector that the ROM took along', async () => {
    const { journal, before } = await write(spec('LX106'), { data: image(20_000), offset: 0 })
    const carried = (journal as Journal).regions[0]?.carried
    expect(carried?.offset).toBe(20_480)
    expect(equal(bytesOfHex(carried?.hex ?? '') as Uint8Array, before.slice(20_480, 24_576))).toBe(true)
  })
})

/** Whatever goes wrong, and wherever: this is what may never happen. */
test('any fault anywhere: never a wrong done, never a byte outside the plan, and what is half is finished from its journal', async () => {
  const random = seededRandom(20_261_128)
  const number = (least: number, most: number) => least + Math.floor(random() * (most - least))
  const data = image(11_000)
  const [from, until] = [8192, 8192 + 3 * 4096]
  for (let i = 0; i < 36; i++) {
    const family = families[i % 3] as Family
    const kinds = [
      { drop: { to: 'chip', at: number(9000, 24_000) } },
      { flip: { to: 'host', at: number(4000, 16_000) } },
      { duplicate: { to: 'host', at: number(4000, 16_000) } },
      { lose: { block: number(1, 11) } },
      { late: { answer: number(230, 260), ms: 4000 } },
      { mute: { request: number(230, 260), count: number(1, 30) } },
      { brownout: { block: number(1, 11), strap: i % 2 ? 'held' : 'free' } },
      { unplug: { after: number(6000, 9000) } },
    ]
    const fault = kinds[number(0, kinds.length)] as object
    const sequence = i % 2 ? 'strict' : 'pointer'
    const { out, before, link, journal } = await write(spec(family, [fault], { sequence }), { data })
    const right = equal(link.flash, expected(before, 8192, data))
    const said = { i, family, fault, outcome: out.outcome }
    expect({ ...said, done: out.outcome === 'done' && !right }).toEqual({ ...said, done: false })
    if (out.outcome === 'refused' || out.outcome === 'no-answer') expect(equal(link.flash, before)).toBe(true)
    // LX106 takes a sector along, which lies behind: it is whole again once the write is.
    const outside = (bytes: Uint8Array) =>
      family === 'LX106' ? bytes.slice(0, from) : Buffer.concat([bytes.slice(0, from), bytes.slice(until)])
    expect({ ...said, same: equal(outside(link.flash), outside(before)) }).toEqual({ ...said, same: true })
    if (out.outcome !== 'lost-midway' || journal === null) continue
    const again = await write(spec(family), { data, resume: resumedFrom(journal) }, { stands: link.flash })
    expect({ ...said, again: again.out.outcome }).toEqual({ ...said, again: 'done' })
    expect({ ...said, right: equal(again.link.flash, expected(before, 8192, data)) }).toEqual({ ...said, right: true })
  }
}, 120_000)
