import { emptyPart, PulsePart, pulseOf, readFrames, wantedOf } from './pulse-of-unit'

/** The worked example of the brief, as it is written into the fields. */
const example = PulsePart.parse({
  vref: 2.5,
  foscHz: 3_500_000,
  powerGain: 40,
  powerDivisor: 128,
  voltageGain: 2,
  voltageDivisor: 512,
  currentGain: 20,
  currentDivisor: 512,
  topOhm: 2_000_000,
  bottomOhm: 1000,
  shuntOhm: 0.001,
  timeoutS: 10,
  windowS: 1,
  powerPeriodUs: 22_900,
  voltageWidthUs: 794,
  currentWidthUs: 4200,
  refV: 230.4,
  refI: 2.18,
  refP: 500.9,
})

describe('a pulse-output meter', () => {
  test('of the worked example is worth what is printed there', () => {
    const outcome = pulseOf(example)
    if (!outcome?.ok) throw new Error('not worked out')
    const { wattPerHz, whPerPulse, P, pf, minW, newCorrections, resolution } = outcome.value
    expect(wattPerHz).toBeCloseTo(11.4343, 3)
    expect(whPerPulse).toBeCloseTo(0.00317619, 7)
    expect([P, pf, minW].map((n) => Number(n?.toPrecision(5)))).toEqual([499.31, 0.99548, 1.1434])
    expect(newCorrections.P).toBeCloseTo(1.00318, 4)
    expect(resolution.map((r) => r.seenBeforeTimeout)).toEqual([false, true, true, true])
  })
  test('whose part is not written down is worth nothing yet: no gain is guessed', () => {
    expect(pulseOf(emptyPart)).toBeNull()
    expect(wantedOf({ ...example, shuntOhm: null })).toEqual(['shuntOhm'])
    expect(pulseOf({ ...example, shuntOhm: null })).toBeNull()
  })
  test('with a part for power alone says nothing of volts', () => {
    const outcome = pulseOf({ ...example, voltageGain: null, currentDivisor: null })
    expect(outcome?.ok && [outcome.value.voltPerHz, outcome.value.ampPerHz]).toEqual([null, null])
  })
})

describe('frames of a serial meter', () => {
  const layout = {
    length: 8,
    header: [{ at: 0, value: 0x55 }],
    fields: {
      coefV: { at: 1, bytes: 1 },
      periodV: { at: 2, bytes: 1 },
      coefI: { at: 3, bytes: 1 },
      periodI: { at: 4, bytes: 1 },
      coefP: { at: 5, bytes: 1 },
      periodP: { at: 6, bytes: 1 },
    },
    checksum: { kind: 'sum8', from: 0, to: 7, at: 7 },
  }
  const frame = (bytes: number[], wrong = 0) =>
    [...bytes, (bytes.reduce((a, b) => a + b, 0) + wrong) & 0xff].map((b) => b.toString(16).padStart(2, '0')).join('')
  test('are used while their checksum agrees; bad ones are counted, what is none is named', () => {
    const good = frame([0x55, 200, 2, 100, 4, 90, 3])
    const read = readFrames(`${good}\n${frame([0x55, 200, 2, 100, 4, 90, 3], 1)}\n\n${good}\nhello\n55aa`, layout)
    expect([read.good.length, read.bad, read.unread]).toEqual([2, 1, ['hello', '55aa']])
    expect([read.good[0]?.V, read.good[0]?.I, read.good[0]?.P]).toEqual([100, 25, 30])
  })
})
