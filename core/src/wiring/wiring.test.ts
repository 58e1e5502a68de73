import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import { planWiring } from './wiring'
import examples from './wiring.examples.json'

const good = {
  adapter: { pins: ['GND', 'RX', 'TX', '3V3', 'GND'], max3v3Ma: 600 },
  board: { family: 'LX106', pads: ['3V3', 'RX', 'TX', 'GND', 'BOOT'] },
  power: 'adapter3v3',
  entry: 'button',
  mainsOff: true,
}
const codes = (input: unknown) =>
  computed(planWiring(input))
    .findings.map((f) => f.code)
    .sort()

describe('which lead goes where', () => {
  test.each(examples)('worked example %#', (example) => {
    const { findings, ...rest } = example.out
    const plan = computed(planWiring(example.in))
    expectLike(plan, rest)
    const short = (list: { severity: string; code: string }[]) => list.map((f) => `${f.severity} ${f.code}`).sort()
    expect(short(plan.findings)).toEqual(short(findings))
  })

  test('nothing to complain about: allowed', () => {
    const plan = computed(planWiring(good))
    expect(plan.findings).toEqual([])
    expect(plan.allowed).toBe(true)
  })
  test('jumper entry takes the second ground for BOOT', () =>
    expect(computed(planWiring({ ...good, entry: 'jumper' })).connections.at(-1)).toEqual({
      adapter: 4,
      pin: 'GND',
      pad: 'BOOT',
    }))
  test('a supply nobody looked up: 50 mA are assumed and said', () =>
    expect(codes({ ...good, adapter: { pins: good.adapter.pins } })).toEqual([
      'supply-unknown',
      'supply-weak-loader',
      'supply-weak-start',
    ]))
  test('5 V without a regulator on the board', () =>
    expect(codes({ ...good, power: 'adapter5v' })).toContain('supply-5v'))
  test('bench supply at 3.6 V is allowed, at 3.61 V not', () => {
    expect(codes({ ...good, power: 'bench', benchV: 3.6 })).toEqual([])
    expect(codes({ ...good, power: 'bench', benchV: 3.61 })).toEqual(['bench-voltage'])
  })
  test('ARM968 has no strap', () =>
    expect(codes({ ...good, board: { ...good.board, family: 'ARM968-B' } })).toContain('no-strap-family'))
  test('auto-reset needs four things', () =>
    expect(codes({ ...good, entry: 'autoreset' })).toEqual(['pad-missing-RST', 'pin-missing-DTR', 'pin-missing-RTS']))
})

test('TX and RX always cross, unless the adapter is labelled from the other side', () => {
  const row = fc.shuffledSubarray(['GND', 'TX', 'RX', '3V3', '5V', 'CTS'], { minLength: 0 })
  fc.assert(
    fc.property(row, row, fc.constantFrom('adapter', 'target'), (pins, pads, labelledFrom) => {
      const plan = computed(
        planWiring({
          ...good,
          adapter: { pins, labelledFrom },
          board: { family: 'LX6', pads: pads.filter((p) => p !== 'CTS') },
        }),
      )
      for (const wire of plan.connections) {
        expect(pins[wire.adapter]).toBe(wire.pin)
        if (wire.pad === 'TX') expect(wire.pin).toBe(labelledFrom === 'target' ? 'TX' : 'RX')
        if (wire.pad === 'GND') expect(wire.pin).toBe('GND')
      }
      expect(plan.allowed).toBe(!plan.findings.some((f) => f.severity === 'error'))
    }),
  )
})

describe('bad input', () => {
  test.each([
    [{ ...good, board: { ...good.board, family: 'LX9' } }, 'unknown-family', '/board/family'],
    [{ ...good, board: { ...good.board, pads: ['GND', 'CLK'] } }, 'unknown-role', '/board/pads/1'],
    [{ ...good, entry: 'wish' }, 'unknown-entry', '/entry'],
    [{ ...good, adapter: { logicV: 3.3 } }, 'missing', '/adapter/pins'],
    [{ ...good, mainsOff: 'yes' }, 'type', '/mainsOff'],
  ])('%#', (input, code, path) => {
    expect(refusalOf(planWiring(input))).toEqual([code, path])
  })
})
