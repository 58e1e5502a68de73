import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import { planJig } from './jig'
import examples from './jig.examples.json'

const full = ['GND', '3V3', 'TX', 'RX', '5V']
/** Rows that have all that is needed, in any order, with spare pins between. */
const rows = fc.tuple(
  fc.shuffledSubarray(full, { minLength: 5 }),
  fc.shuffledSubarray(['GND', '3V3', 'TX', 'RX', 'BOOT', 'UNKNOWN'], { minLength: 6 }),
)

describe('straight plug or jig', () => {
  test.each(examples)('worked example %#', ({ in: input, out }) => expectLike(computed(planJig(input)), out))

  test('different pitch is never straight', () => {
    const row = ['GND', 'TX', 'RX', '3V3']
    const pads = ['GND', 'RX', 'TX', '3V3']
    expect(computed(planJig({ adapter: row, pads })).reason).toBe('straight')
    expect(computed(planJig({ adapter: row, pads, pitchPads: 2 }))).toMatchObject({
      straight: null,
      reason: 'pitch',
      jig: { crossings: 0, rows: 3, topWires: 0 },
    })
  })
  test('turning the plug round is tried, and the indices stay those of the row as given', () => {
    const plan = computed(planJig({ adapter: ['5V', '3V3', 'RX', 'TX', 'GND'], pads: ['GND', 'RX', 'TX', '3V3'] }))
    expect(plan.straight).toEqual({
      orientation: 'reversed',
      offset: 0,
      bend: [0],
      mates: [
        { adapter: 4, pad: 0 },
        { adapter: 3, pad: 1 },
        { adapter: 2, pad: 2 },
        { adapter: 1, pad: 3 },
      ],
    })
  })
  test('of two GND pins the one with fewer crossings is taken', () => {
    const plan = computed(
      planJig({ adapter: ['GND', 'TX', 'RX', '3V3', 'GND'], pads: ['RX', 'TX', '3V3', 'UNKNOWN', 'GND'] }),
    )
    expect(plan.jig ?? plan.straight).toMatchObject({})
    if (plan.jig) expect(plan.jig.crossings).toBe(0)
  })
  test('a header labelled from the other side goes TX to TX', () => {
    const row = ['GND', 'TX', 'RX', '3V3']
    expect(computed(planJig({ adapter: row, pads: row, labelledFrom: 'target' })).straight?.bend).toEqual([])
  })

  test('what it joins is exactly what is needed, and bare wires never cross', () =>
    fc.assert(
      fc.property(rows, fc.constantFrom('adapter3v3', 'bench'), fc.boolean(), ([adapter, pads], power, flip) => {
        const plan = computed(planJig({ adapter, pads, power, plugFace: flip ? 'bottom' : 'top' }))
        const joined = plan.straight?.mates ?? plan.jig?.wires ?? []
        const partner: Record<string, string> = { GND: 'GND', '3V3': '3V3', TX: 'RX', RX: 'TX' }
        const roles = joined.map((j) => plan.padsInView[j.pad] as string)
        expect([...roles].sort()).toEqual((power === 'bench' ? ['GND', 'RX', 'TX'] : ['3V3', 'GND', 'RX', 'TX']).sort())
        for (const j of joined) expect(adapter[j.adapter]).toBe(partner[plan.padsInView[j.pad] as string])
        expect([...(plan.straight?.bend ?? [])].length + joined.length).toBe(
          plan.straight ? adapter.length : joined.length,
        )
        const { jig } = plan
        if (!jig) return
        const at = (i: number) => (jig.adapterReversed ? adapter.length - 1 - i : i)
        const bare = jig.wires.filter((w) => w.layer === 'bottom')
        for (const a of bare)
          for (const b of bare) expect((at(a.adapter) - at(b.adapter)) * (a.pad - b.pad)).toBeGreaterThanOrEqual(0)
        expect(jig.wires.length - bare.length).toBe(jig.topWires)
        expect(jig.rows).toBe(jig.crossings === 0 ? 3 : 4)
      }),
    ))
  test('seen from the other face twice is the same plan', () =>
    fc.assert(
      fc.property(rows, ([adapter, pads]) => {
        const top = computed(planJig({ adapter, pads }))
        const bottom = computed(
          planJig({ adapter, pads: [...pads].reverse(), padsSeenFrom: 'bottom', plugFace: 'top' }),
        )
        expect(bottom).toEqual(top)
      }),
    ))
})

describe('bad input', () => {
  const good = { adapter: ['GND', 'TX', 'RX', '3V3'], pads: ['GND', 'TX', 'RX', '3V3'] }
  test.each([
    [{ ...good, pads: ['GND', 'TX', 'RX', 'CLK'] }, 'unknown-role', '/pads/3'],
    [{ ...good, pads: ['GND', 'TX', 'RX', 'BOOT'] }, 'missing-role', '/pads'],
    [{ ...good, adapter: ['TX', 'RX', '3V3'] }, 'missing-pin', '/adapter'],
    [{ ...good, adapter: Array.from({ length: 13 }, () => 'GND') }, 'range', '/adapter'],
    [{ ...good, pitchPads: 0 }, 'range', '/pitchPads'],
    [{ adapter: good.adapter }, 'missing', '/pads'],
  ])('%#', (input, code, path) => expect(refusalOf(planJig(input))).toEqual([code, path]))
  test('says which pin', () => {
    const refused = planJig({ ...good, adapter: ['TX', 'RX', '3V3'] })
    expect(refused.ok ? '' : refused.faults[0]?.message).toBe('The adapter has no GND pin.')
  })
})
