import fc from 'fast-check'
import { families } from '../families/families'
import { computed, expectLike, refusalOf } from '../testing/like'
import { headerOf } from './header'
import { checkKinds, identify } from './identify'
import examples from './identify.examples.json'

describe('which family is it', () => {
  test.each(examples)('worked example %#', (example) => {
    expectLike(computed(identify(example.in)), example.out)
  })

  test('nothing observed: the prior, and the leader is its largest', () => {
    const result = computed(identify({ evidence: [] }))
    expect(result.leader).toBe('LX106')
    expect(result.posterior.LX106).toBeCloseTo(0.3, 10)
    expect(result.next).toHaveLength(checkKinds.length)
  })

  test('three look-alikes of variant B pass 95 % and still do not split it from A', () => {
    const evidence = [
      { kind: 'marking', counts: { 'ARM968-B': 3 } },
      { kind: 'crystal', value: '26' },
      { kind: 'sync_reply', value: 'hci_link' },
    ]
    const few = computed(identify({ evidence }))
    expect(few.verdict).toBe('arm968_unsplit')
    const many = computed(
      identify({ evidence: [{ kind: 'marking', counts: { 'ARM968-B': 40 } }, ...evidence.slice(1)] }),
    )
    expect(many.verdict).toBe('identified')
  })

  test('an observation nobody is sure of changes nothing', () => {
    const unsure = computed(identify({ evidence: [{ kind: 'crystal', value: '26', sure: 0 }] }))
    for (const family of families)
      expect(unsure.posterior[family]).toBeCloseTo(computed(identify({ evidence: [] })).posterior[family], 12)
  })
})

describe('properties', () => {
  const observation = fc.constantFrom(...checkKinds).chain((kind) =>
    fc.record({
      kind: fc.constant(kind.kind),
      value: fc.constantFrom(...Object.keys(kind.values)),
      sure: fc.double({ min: 0, max: 1, noNaN: true }),
    }),
  )
  const evidenceLists = fc.uniqueArray(observation, { selector: (o) => o.kind, maxLength: 9 })

  test('the posterior is a distribution and the order of the evidence does not matter', () => {
    fc.assert(
      fc.property(evidenceLists, (evidence) => {
        const result = computed(identify({ evidence }))
        const sum = Object.values(result.posterior).reduce((a, b) => a + b, 0)
        expect(sum).toBeCloseTo(1, 9)
        const turned = computed(identify({ evidence: [...evidence].reverse() }))
        for (const family of families) expect(turned.posterior[family]).toBeCloseTo(result.posterior[family], 9)
        for (const check of result.next) expect(check.bits).toBeGreaterThanOrEqual(-1e-12)
      }),
    )
  })
})

describe('bad input is refused with its place', () => {
  test.each([
    [{}, 'missing', '/evidence'],
    [{ evidence: 3 }, 'type', '/evidence'],
    [{ evidence: [{ kind: 'colour', value: 'red' }] }, 'unknown-kind', '/evidence/0/kind'],
    [{ evidence: [{ kind: 'crystal', value: '33' }] }, 'unknown-value', '/evidence/0/value'],
    [{ evidence: [{ kind: 'crystal', value: 26 }] }, 'type', '/evidence/0/value'],
    [{ evidence: [{ kind: 'crystal' }] }, 'missing', '/evidence/0/value'],
    [{ evidence: [{ value: '26' }] }, 'missing', '/evidence/0/kind'],
    [
      {
        evidence: [
          { kind: 'crystal', value: '26' },
          { kind: 'crystal', value: '40' },
        ],
      },
      'duplicate',
      '/evidence/1/kind',
    ],
    [{ evidence: [{ kind: 'crystal', value: '26', sure: 1.5 }] }, 'range', '/evidence/0/sure'],
    [{ evidence: [], prior: { LX106: 0.5 } }, 'prior', '/prior'],
    [{ evidence: [], prior: { LX9: 1 } }, 'unknown-family', '/prior/LX9'],
    [{ evidence: [{ kind: 'marking', counts: { LX6: -1 } }] }, 'range', '/evidence/0/counts/LX6'],
    [{ evidence: [{ kind: 'marking', counts: { LX9: 1 } }] }, 'unknown-family', '/evidence/0/counts/LX9'],
    [{ evidence: [{ kind: 'marking' }] }, 'missing', '/evidence/0/counts'],
  ])('%j', (input, code, path) => {
    expect(refusalOf(identify(input))).toEqual([code, path])
  })
})

describe('what the first bytes say', () => {
  const withWord = (magicAt: number, word: number[], id: number[]) => {
    const bytes = new Uint8Array(0x1010).fill(0x11)
    bytes.set([0xe9, 1, 2, 0x20, 0, 0, 0, 0, ...word, ...id], magicAt)
    return bytes
  }
  test('a load address after the header: plain', () =>
    expect(headerOf(withWord(0, [0, 0, 0x10, 0x40], [0, 0]))).toBe('e9_plain'))
  test('chip id 0 behind 4 KiB: LX6', () => expect(headerOf(withWord(0x1000, [0xee, 0, 0, 0], [0, 0]))).toBe('e9_lx6'))
  test('chip id 9: LX7; 5: RV32; 77: none we know', () => {
    expect(headerOf(withWord(0, [0xee, 0, 0, 0], [9, 0]))).toBe('e9_lx7')
    expect(headerOf(withWord(0, [0xee, 0, 0, 0], [5, 0]))).toBe('e9_rv32')
    expect(headerOf(withWord(0, [0xee, 0, 0, 0], [77, 0]))).toBe('other')
  })
  test('all FF: blank; nothing: other', () => {
    expect(headerOf(new Uint8Array(64).fill(0xff))).toBe('blank')
    expect(headerOf(new Uint8Array(0))).toBe('other')
  })
})
