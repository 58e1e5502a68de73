import fc from 'fast-check'
import { computed } from '../testing/like'
import { correctEnergy } from './energy'
import { type FrameMeter, meterPulse, type PulseMeter } from './pulse'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const near = (x: number | null | undefined, y: number) => expect(Math.abs((x ?? 0) / y - 1)).toBeLessThan(1e-4)

describe('pulses', () => {
  const request = {
    mode: 'pulse',
    constants: {
      vref: 2.5,
      foscHz: 3_500_000,
      power: { gain: 40, divisor: 128 },
      voltage: { gain: 2, divisor: 512 },
      current: { gain: 20, divisor: 512 },
      dividerTopOhm: 2_000_000,
      dividerBottomOhm: 1000,
      shuntOhm: 0.001,
    },
    readings: { power: { periodUs: 22_900 }, voltage: { widthUs: 794 }, current: { widthUs: 4200 } },
    timeoutS: 10,
    windowS: 1,
    tickUs: 1,
    atW: [1, 5, 60, 2000],
    reference: { V: 230.4, I: 2.18, P: 500.9 },
  }
  test('the worked example', () => {
    const m = computed(meterPulse(request)) as PulseMeter
    near(m.wattPerHz, 11.4343)
    near(m.voltPerHz, 0.365897)
    near(m.ampPerHz, 0.0182857)
    near(m.whPerPulse, 0.00317619)
    near(m.V, 230.414)
    near(m.I, 2.17687)
    near(m.P, 499.314)
    near(m.pf, 0.99548)
    near(m.countStepW, 11.4343)
    near(m.minW, 1.14343)
    expect(m.resolution.map((r) => r.seenBeforeTimeout)).toEqual([false, true, true, true])
    near(m.resolution[0]?.firstUpdateS, 11.4343)
    near(m.resolution[1]?.firstUpdateS, 2.28686)
    near(m.newCorrections.P, 1.00318)
    near(m.newCorrections.V, 0.99994)
    near(m.newCorrections.I, 1.00144)
  })
  test('no pulse yet is no power, and never no voltage; what was not read is not known', () => {
    const none = computed(meterPulse({ ...request, readings: { power: {}, voltage: {} } })) as PulseMeter
    expect([none.P, none.V, none.I]).toEqual([0, null, null])
  })
  test('the corrections that are set are part of the new ones', () => {
    const once = computed(meterPulse(request)) as PulseMeter
    const again = computed(meterPulse({ ...request, corrections: once.newCorrections })) as PulseMeter
    near(again.P, 500.9)
    near(again.newCorrections.P, once.newCorrections.P as number)
  })
  test('bad input at its place', () => {
    expect(fault(meterPulse({ ...request, atW: [5, 0] }))).toBe('range /atW/1')
    expect(fault(meterPulse({ ...request, mode: 'light' }))).toBe('input /mode')
  })
})

describe('frames', () => {
  const field = (at: number, bytes = 3) => ({ at, bytes })
  const request = {
    mode: 'serial',
    frameHex: 'A5 03 33 00 00 03 8E 00 28 00 00 12 6D 13 12 D0 00 00 09 C4 30',
    layout: {
      length: 21,
      header: [{ at: 0, value: 165 }],
      fields: {
        coefV: field(1),
        periodV: field(4),
        coefI: field(7),
        periodI: field(10),
        coefP: field(13),
        periodP: field(16, 4),
      },
      checksum: { kind: 'sum8', from: 1, to: 20, at: 20 },
    },
    scale: { V: 1, I: 1, P: 1 },
  }
  test('the worked example', () => {
    const m = computed(meterPulse(request)) as FrameMeter
    expect([m.checksumOk, m.use]).toEqual([true, true])
    near(m.V, 230.4)
    near(m.I, 2.17087)
    near(m.P, 500)
    near(m.pf, 0.999663)
  })
  test('a flipped bit anywhere but in the header is never used', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 0, max: 7 }), (at, bit) => {
        const bytes = request.frameHex.split(' ').map((h) => Number.parseInt(h, 16))
        bytes[at] = (bytes[at] as number) ^ (1 << bit)
        const frameHex = bytes.map((b) => b.toString(16).padStart(2, '0')).join('')
        expect((computed(meterPulse({ ...request, frameHex })) as FrameMeter).use).toBe(false)
      }),
    ))
  test('another header, a frame cut short, a period of 0', () => {
    expect(fault(meterPulse({ ...request, frameHex: request.frameHex.replace('A5', 'A4') }))).toBe('input /frameHex')
    expect(fault(meterPulse({ ...request, frameHex: request.frameHex.slice(0, -3) }))).toBe('input /frameHex')
    expect(fault(meterPulse({ ...request, layout: { ...request.layout, length: 22 } }))).toBe('input /frameHex')
    const still = { ...request, frameHex: request.frameHex.replace('00 12 6D', '00 00 00').replace(/30$/, 'B1') }
    expect((computed(meterPulse(still)) as FrameMeter).I).toBe(0)
  })
})

describe('energy', () => {
  const request = {
    readings: [
      { at: '2026-03-01T00:00:00Z', kWh: 40 },
      { at: '2026-04-01T00:00:00Z', kWh: 52.4 },
      { at: '2026-05-01T00:00:00Z', kWh: 63.2 },
      { at: '2026-05-21T00:00:00Z', kWh: 4 },
    ],
    factors: [
      { from: '2026-03-01T00:00:00Z', old: 1, new: 1.04 },
      { from: '2026-05-12T00:00:00Z', old: 1.04, new: 1.04 },
    ],
    prices: [
      { from: '2026-01-01T00:00:00Z', perKWh: 0.28 },
      { from: '2026-04-16T00:00:00Z', perKWh: 0.31 },
    ],
    standby: [
      { id: 'LY-07', W: 0.9 },
      { id: 'box-office modem', W: 7.5 },
    ],
  }
  test('the worked example', () => {
    const e = computed(correctEnergy(request))
    near(e.total, 27.2)
    near(e.corrected, 28.216)
    near(e.changePct, 3.73529)
    near(e.cost, 8.1916)
    for (const [i, cost] of [3.61088, 3.31344, 1.26728].entries()) near(e.intervals[i]?.cost, cost)
    expect([e.resets, e.setbacks, e.unpricedKWh]).toEqual([['2026-05-21T00:00:00Z'], [], 0])
    near(e.standby[0]?.kWhPerYear, 7.884)
    near(e.standby[0]?.costPerYear, 2.44404)
    near(e.standby[1]?.kWhPerYear, 65.7)
  })
  test('a reading may say itself that it was no reset, or that it was one', () => {
    const said = (reset: boolean, kWh = 4) =>
      computed(
        correctEnergy({
          ...request,
          readings: [...request.readings.slice(0, 3), { at: '2026-05-21T00:00:00Z', kWh, reset }],
        }),
      )
    const back = said(false)
    near(back.total, 23.2)
    near(back.corrected, 24.128)
    near(back.cost, 6.92432)
    expect([back.resets, back.setbacks]).toEqual([[], ['2026-05-21T00:00:00Z']])
    expect(said(true, 70).intervals[2]?.kWh).toBe(70)
  })
  test('a small fall is a set-back, energy before the first price is unpriced', () => {
    const e = computed(
      correctEnergy({
        readings: [
          { at: '2026-01-01T00:00:00Z', kWh: 10 },
          { at: '2026-01-03T00:00:00Z', kWh: 9 },
          { at: '2026-01-05T00:00:00Z', kWh: 13 },
        ],
        prices: [{ from: '2026-01-04T00:00:00Z', perKWh: 1 }],
      }),
    )
    expect(e.setbacks).toEqual(['2026-01-03T00:00:00Z'])
    expect([e.total, e.unpricedKWh, e.cost]).toEqual([4, 2, 2])
  })
  test('factor 1 changes nothing, and intervals add up', () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 500, noNaN: true }), { minLength: 2, maxLength: 12 }), (counts) => {
        const readings = counts.map((kWh, i) => ({ at: new Date(Date.UTC(2026, 0, 1 + i)).toISOString(), kWh }))
        const e = computed(correctEnergy({ readings, factors: [{ from: '2026-01-02T12:00:00Z', old: 2, new: 2 }] }))
        expect(e.corrected).toBeCloseTo(e.total, 6)
        expect(e.intervals.reduce((sum, i) => sum + i.kWh, 0)).toBeCloseTo(e.total, 6)
      }),
    ))
  test('bad input at its place', () => {
    expect(fault(correctEnergy({ readings: request.readings.slice(0, 1) }))).toBe('empty /readings')
    expect(fault(correctEnergy({ readings: [request.readings[1], request.readings[0]] }))).toBe('input /readings/1/at')
    expect(fault(correctEnergy({ readings: [{ at: '2026-03-01T00:00:00', kWh: 1 }, request.readings[1]] }))).toBe(
      'input /readings/0/at',
    )
    expect(fault(correctEnergy({ readings: [request.readings[0], { ...request.readings[1], reset: 'yes' }] }))).toBe(
      'input /readings/1/reset',
    )
  })
})
