import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import { padRoles } from '../wiring/wiring'
import { mirroredColumn, placesSeenFrom } from './face'
import table from './measures.json'
import examples from './pads.examples.json'
import {
  labelCode,
  measureNames,
  measures,
  type PadReading,
  pullUpOhms,
  readingNames,
  readOhms,
  readVolts,
} from './readings'
import { solvePads } from './solve'

const solve = (...pads: PadReading[]) => computed(solvePads({ pads }))

describe('which pad is what', () => {
  test.each(examples)('worked example %#', ({ in: input, out }) => expectLike(computed(solvePads(input)), out))

  test('print alone never opens the way to power', () => {
    const found = solve({ label: '3V3', square: true }, { label: 'TX' }, { label: 'RX' }, { label: 'GND' })
    expect(found.best.roles).toEqual(['3V3', 'TX', 'RX', 'GND'])
    expect(found.safeToWire).toBe(false)
    expect(found.next.every((n) => !n.powered)).toBe(true)
  })
  test('a rail that is known elsewhere allows powered readings, not the wiring', () => {
    const found = computed(solvePads({ pads: [{ cont_gnd: false }, { cont_gnd: false }], railKnown: true }))
    expect(found).toMatchObject({ safeToWire: false, poweredAllowed: true })
  })
  test('two readings of one pad that cannot both be right are named, both of them', () => {
    const [conflict] = solve({ cont_gnd: true, ohms_3v3: 0.3 }, { cont_gnd: true }, { cont_gnd: false }).conflicts
    expect(conflict).toMatchObject({ pad: 0, role: '3V3', better: 'GND', measure: 'cont_gnd', against: 'ohms_3v3' })
  })
  test('a sag tells the pull-up', () => {
    expect(pullUpOhms(3.12, 0.58)).toBeCloseTo(43793, 0)
    expect(pullUpOhms(3.29, 1.64)).toBeCloseTo(10061, 0)
    expect(pullUpOhms(3.3, 0)).toBe(null)
  })
  test.each([
    ['gnd', 'G'],
    ['3.3V', 'V'],
    ['TxD', 'T'],
    ['U0RXD', 'R'],
    ['io 0', 'B'],
    ['CH_PD', 'E'],
    ['Vin', '5'],
    ['J2', 'none'],
    ['', 'none'],
  ])('the print %s is read as %s', (text, code) => expect(labelCode(text)).toBe(code))
})

test('the table has a row of eight for every value, and every column of a measure sums to 1', () => {
  expect(table.measures.map((m) => m.measure)).toEqual([...measureNames])
  for (const m of measures)
    for (const role of padRoles.keys()) {
      const sum = Object.values(m.values).reduce((a, row) => a + (row[role] as number), 0)
      expect({ measure: m.measure, role: padRoles[role], sum: Math.round(sum * 1000) / 1000 }).toEqual({
        measure: m.measure,
        role: padRoles[role],
        sum: 1,
      })
    }
})

const reading = fc.record(
  {
    cont_gnd: fc.boolean(),
    ohms_3v3: fc.constantFrom<number | 'open'>(0.4, 300, 10_100, 47_000, 'open'),
    button_gnd: fc.boolean(),
    square: fc.boolean(),
    label: fc.constantFrom('GND', 'TX', 'RX', '3V3', 'IO0', ''),
    volts: fc.constantFrom(0, 1.2, 3.0, 3.3, 4.8),
    dip: fc.boolean(),
    text: fc.boolean(),
  },
  { requiredKeys: [] },
) as fc.Arbitrary<PadReading>
const row = fc.array(reading, { minLength: 1, maxLength: 5 })

/** The same sum by brute force: every one of 8ⁿ assignments. */
function bruteForce(pads: readonly PadReading[]) {
  const single = pads.map((pad) => solvePads({ pads: [pad] })).map(computed)
  // The evidence of one pad alone, freed of the role prior that the solver puts on it.
  const used = table.used as Record<string, number>
  const prior = (role: string) => (role === 'UNKNOWN' ? 1 : (used[role] as number) / (1 - (used[role] as number)))
  const evidence = single.map((s) => padRoles.map((r) => (s.marginals[0]?.[r] ?? 0) / prior(r)))
  const weights = new Map<string, number>()
  const walk = (at: number, roles: string[], w: number) => {
    if (at === pads.length) {
      let factor = w
      for (const role of padRoles) {
        if (role === 'UNKNOWN') continue
        const n = roles.filter((r) => r === role).length
        const again = (table.again as Record<string, number>)[role] ?? 0
        factor *= n === 0 ? 1 - (used[role] as number) : (used[role] as number) * again ** (n - 1)
      }
      weights.set(roles.join(' '), factor)
      return
    }
    padRoles.forEach((role, r) => walk(at + 1, [...roles, role], w * (evidence[at]?.[r] ?? 0)))
  }
  walk(0, [], 1)
  const total = [...weights.values()].reduce((a, b) => a + b, 0)
  return { weights, total }
}

describe('what holds for every row', () => {
  test('the programme over used roles gives the same as trying every assignment', () =>
    fc.assert(
      fc.property(fc.array(reading, { minLength: 1, maxLength: 3 }), (pads) => {
        const found = computed(solvePads({ pads }))
        const { weights, total } = bruteForce(pads)
        const sorted = [...weights.values()].sort((a, b) => b - a)
        expect(found.best.p).toBeCloseTo((sorted[0] as number) / total, 8)
        expect(found.runnerUp.p).toBeCloseTo((sorted[1] as number) / total, 8)
        expect((weights.get(found.best.roles.join(' ')) as number) / total).toBeCloseTo(found.best.p, 8)
        const gnd = [...weights].filter(([k]) => k.startsWith('GND')).reduce((a, [, w]) => a + w, 0) / total
        expect(found.marginals[0]?.GND).toBeCloseTo(gnd, 8)
      }),
      { numRuns: 40 },
    ))
  test('a permutation of pads permutes the answer', () =>
    fc.assert(
      fc.property(row, fc.infiniteStream(fc.nat(1000)), (pads, keys) => {
        const order = pads.map((_, i) => ({ i, key: keys.next().value as number })).sort((a, b) => a.key - b.key)
        const before = computed(solvePads({ pads }))
        const after = computed(solvePads({ pads: order.map(({ i }) => pads[i]) }))
        expect(after.best.p).toBeCloseTo(before.best.p, 9)
        order.forEach(({ i }, now) => {
          for (const role of padRoles)
            expect(after.marginals[now]?.[role]).toBeCloseTo(before.marginals[i]?.[role] as number, 9)
        })
      }),
    ))
  test('probabilities of a pad add up to 1', () =>
    fc.assert(
      fc.property(row, (pads) => {
        for (const m of computed(solvePads({ pads })).marginals)
          expect(Object.values(m).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9)
      }),
    ))
  test('a reading that a role explains best never lowers that role', () =>
    fc.assert(
      fc.property(row, fc.constantFrom(...measures), fc.nat(1000), (pads, measure, pick) => {
        const fields = {
          volts: 3.3,
          dip: true,
          text: true,
          cont_gnd: true,
          button_gnd: true,
          square: true,
          label: 'TX',
        }
        const name = measure.measure as keyof typeof fields
        const index = pick % pads.length
        if (!(name in fields) || pads[index]?.[name] !== undefined) return
        const value = name === 'volts' ? 'rail' : name === 'label' ? 'T' : 'yes'
        const line = measure.values[value] as number[]
        const role = padRoles[line.indexOf(Math.max(...line))] as (typeof padRoles)[number]
        const before = computed(solvePads({ pads })).marginals[index]?.[role] as number
        const more = pads.map((p, i) => (i === index ? { ...p, [name]: fields[name] } : p))
        const after = computed(solvePads({ pads: more })).marginals[index]?.[role] as number
        expect(after).toBeGreaterThanOrEqual(before - 1e-12)
      }),
    ))
  test('twelve pads with every reading stay in range', () => {
    const all = {
      cont_gnd: false,
      ohms_3v3: 'open',
      button_gnd: false,
      square: false,
      label: 'TX',
      volts: 3.2,
      volts_10k: 3.2,
      dip: true,
      text: true,
    }
    const found = computed(solvePads({ pads: Array.from({ length: 12 }, () => all) }))
    expect(found.best.p).toBeGreaterThan(0)
    expect(found.best.roles.filter((r) => r === 'TX').length).toBe(1)
  })
  test('a row of four from below, and two rows of three', () => {
    expect(placesSeenFrom('bottom', 4, 1).map((p) => p.index)).toEqual([3, 2, 1, 0])
    expect(placesSeenFrom('bottom', 6, 2).map((p) => p.index)).toEqual([2, 1, 0, 5, 4, 3])
    expect(placesSeenFrom('top', 5, 2).map((p) => [p.row, p.column])).toEqual([
      [0, 0],
      [0, 1],
      [0, 2],
      [1, 0],
      [1, 1],
    ])
  })
  test('mirroring twice is nothing', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.nat(39), (n, c) => {
        if (c < n) expect(mirroredColumn(mirroredColumn(c, n), n)).toBe(c)
      }),
    ))
})

describe('bad input', () => {
  test.each([
    [{}, 'missing', '/pads'],
    [{ pads: [] }, 'range', '/pads'],
    [{ pads: Array.from({ length: 13 }, () => ({})) }, 'range', '/pads'],
    [{ pads: [{}, { cont_5v: true }] }, 'unknown-measure', '/pads/1/cont_5v'],
    [{ pads: [{ sag_10k: 'half' }] }, 'unknown-measure', '/pads/0/sag_10k'],
    [{ pads: [{ volts: -40 }] }, 'range', '/pads/0/volts'],
    [{ pads: [{ volts: 400 }] }, 'range', '/pads/0/volts'],
    [{ pads: [{ volts: '3.3' }] }, 'range', '/pads/0/volts'],
    [{ pads: [{ volts: null }] }, 'range', '/pads/0/volts'],
    [{ pads: [{ ohms_3v3: -1 }] }, 'range', '/pads/0/ohms_3v3'],
    [{ pads: [{ ohms_3v3: 'infinite' }] }, 'range', '/pads/0/ohms_3v3'],
    [{ pads: [{ volts_10k: 3 }] }, 'missing', '/pads/0/volts'],
    [{ pads: [{ cont_gnd: 'yes' }] }, 'type', '/pads/0/cont_gnd'],
    [{ pads: [7] }, 'type', '/pads/0'],
  ])('%#: %j', (input, code, path) => expect(refusalOf(solvePads(input))).toEqual([code, path]))

  test('400 V says stop, and why', () => {
    const refused = solvePads({ pads: [{ volts: 400 }] })
    expect(refused.ok ? '' : refused.faults[0]?.message).toBe(
      'Above 6 V: switch off, this is not a 3.3 V part of the board.',
    )
  })
  test('every field that a pad can have is a reading', () =>
    expect(readingNames.filter((n) => n !== 'volts_10k').length).toBe(measureNames.length - 1))
})

describe('what people type', () => {
  test.each([
    ['0,4', 0.4],
    ['10k', 10_000],
    ['4k7', 4700],
    ['1.2 MΩ', 1_200_000],
    ['o', 'open'],
    ['OL', 'open'],
    ['-3', -3],
    ['beep', null],
    ['', null],
  ])('%s Ω', (text, ohms) => expect(readOhms(text)).toBe(ohms))
  test.each([
    ['3,27', 3.27],
    ['3.3 V', 3.3],
    ['580m', 0.58],
    ['f', 0],
    ['-40', -40],
    ['lots', null],
  ])('%s V', (text, volts) => expect(readVolts(text)).toBe(volts))
})
