import { drive } from '@fresh-coat/core/link/drive'
import { newLine, reportOf } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { ChipSpec, type Fault } from '@/standins/chip/chip-spec'
import { VirtualLink } from '@/standins/chip/virtual-link'

const sizes = {
  LX106: ['684014', 2 ** 20],
  LX6: ['204016', 2 ** 22],
  LX7: ['c84017', 2 ** 23],
  RV32: ['204016', 2 ** 22],
} as const
type Family = keyof typeof sizes
function spec(family: Family, more: object = {}): ChipSpec {
  const [flashId, flashBytes] = sizes[family]
  return ChipSpec.parse({ family, flashBytes, flashId, mac: '02:4c:59:10:20:30', ...more })
}
async function ask(chip: ChipSpec, { rate = 115_200, tries = 20 } = {}) {
  const link = new VirtualLink(chip, rate)
  const line = newLine(rate, 400 + 4 * chip.latencyMs)
  const states: string[] = []
  const found = await drive(identify(line, tries), link, { onState: (s) => states.push(s) })
  return { found, line, states, report: reportOf(line) }
}
const codes = (found: { findings: { code: string }[] }) => found.findings.map((f) => f.code)
const faulty = (family: Family, ...faults: Fault[]) => spec(family, { faults })

describe('what a chip says of itself', () => {
  test.each(['LX106', 'LX6', 'LX7', 'RV32'] as const)('%s: family, address, crystal, flash', async (family) => {
    const { found, states } = await ask(spec(family))
    expect(found).toMatchObject({
      family,
      mac: '02:4c:59:10:20:30',
      crystalMHz: 40,
      flashId: sizes[family][0],
      flashBytes: sizes[family][1],
      findings: [],
    })
    expect(states).toEqual(['listening', 'calling', 'detecting'])
  })
  test.each(['LX106', 'LX6'] as const)('%s: a crystal of 26 MHz is told by its divider', async (family) =>
    expect((await ask(spec(family, { crystalMhz: 26 }))).found.crystalMHz).toBe(26),
  )
  test('the ROM’s own id, where it has one', async () => {
    expect((await ask(spec('RV32'))).found).toMatchObject({ chipId: 5, magic: '0x6921506F' })
    expect((await ask(spec('LX6'))).found).toMatchObject({ chipId: null, security: { encrypted: false } })
    expect((await ask(spec('LX106'))).found.security).toBeNull()
  })
  test.each(['LX6', 'RV32'] as const)('%s: a locked one stops everything', async (family) => {
    const { found } = await ask(spec(family, { locked: true }))
    expect([found.security?.encrypted, codes(found)]).toEqual([true, ['link-encrypted']])
  })
})

describe('nobody in the loader', () => {
  test('a program that runs is heard as text, and said so', async () => {
    const { found } = await ask(spec('LX6', { strap: 'free' }), { tries: 8 })
    expect([found.family, codes(found)]).toEqual([null, ['link-app-running']])
  })
  test('only our own bytes', async () =>
    expect(codes((await ask(faulty('LX6', { fault: 'echo' }), { tries: 4 })).found)).toEqual(['link-echo']))
  test('silence', async () =>
    expect(codes((await ask(faulty('LX6', { fault: 'mute', request: 1, count: 10_000 }), { tries: 3 })).found)).toEqual(
      ['link-no-answer'],
    ))
})

describe('a bad line', () => {
  const known = new Map<Family, unknown>()
  const clean = async (family: Family) => {
    if (!known.has(family)) known.set(family, (await ask(spec(family))).found)
    return known.get(family)
  }
  test.each<[string, Fault[]]>([
    ['garbage before the first answer', [{ fault: 'garbage', bytes: 200 }]],
    ['an answer that is lost', [{ fault: 'lose', answer: 3 }]],
    [
      'two that are lost one after the other',
      [
        { fault: 'lose', answer: 2 },
        { fault: 'lose', answer: 3 },
      ],
    ],
    ['an answer that comes late', [{ fault: 'late', answer: 4, ms: 700 }]],
    ['requests that are not heard', [{ fault: 'mute', request: 2, count: 2 }]],
    ['text in front of an answer', [{ fault: 'text', answer: 5, text: 'brown out\r\n' }]],
    ['a byte lost on the way to it', [{ fault: 'drop', to: 'chip', at: 60 }]],
    ['a byte doubled on the way back', [{ fault: 'duplicate', to: 'host', at: 300 }]],
  ])('%s: the same is found, however long it takes', async (_, faults) => {
    for (const family of ['LX106', 'RV32'] as const)
      expect((await ask(faulty(family, ...faults))).found).toEqual(await clean(family))
  })
  test('a late answer is never taken for the next one’s, wherever it comes late', async () => {
    const right = await clean('LX6')
    for (let answer = 1; answer <= 20; answer += 3)
      expect((await ask(faulty('LX6', { fault: 'late', answer, ms: 450 }))).found).toEqual(right)
  })
  test('what was done again is counted', async () => {
    const { report } = await ask(faulty('LX6', { fault: 'lose', answer: 2 }))
    expect(report.retries).toBe(1)
    expect((await ask(spec('LX6'))).report.retries).toBe(0)
  })
  test('the plug that is pulled ends it at once', async () =>
    await expect(ask(faulty('LX6', { fault: 'unplug', after: 200 }))).rejects.toThrow())
})

test('the wait of the adapter is measured, not asked', async () => {
  for (const latencyMs of [1, 4, 16]) {
    const { report } = await ask(spec('LX106', { latencyMs }))
    expect(report.latencyMs).toBeGreaterThan(latencyMs - 0.5)
    expect(report.latencyMs).toBeLessThan(latencyMs + 2)
  }
})

test('the same file gives the same line, byte for byte', async () => {
  const chip = faulty('LX6', { fault: 'garbage', bytes: 64 }, { fault: 'late', answer: 3, ms: 500 })
  expect((await ask(chip)).report).toEqual((await ask(chip)).report)
})
