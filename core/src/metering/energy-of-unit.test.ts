import fc from 'fast-check'
import { aCalibration } from '../testing/a-calibration'
import { unit } from '../testing/a-unit'
import type { Calibration } from '../unit/view'
import { energyOf, factorsOf, readReadings } from './energy-of-unit'

const calibration = (at: string, gain: number) => aCalibration({ id: at, at, gain, due: null })
const at = (readings: string, calibrations: Calibration[] = [], more: object = {}) =>
  unit({ meter: { counter: readings, ...more } }, { calibrations })

describe('readings that are pasted', () => {
  test('are read with a day or a time, a comma or a point, in any order; what is none is named', () => {
    expect(readReadings('2026-05-12 12,5\n2026-04-01T08:30:00Z; 3.25 kWh\nfirst of May 7\n\n2026-13-40 5')).toEqual({
      readings: [
        { at: '2026-04-01T08:30:00Z', kWh: 3.25 },
        { at: '2026-05-12T12:00Z', kWh: 12.5 },
      ],
      unread: ['first of May 7', '2026-13-40 5'],
    })
  })
  test('fewer than two are no history', () => {
    expect(energyOf(at(''))).toBeNull()
    expect(energyOf(at('2026-05-12 3'))).toBeNull()
  })
})

describe('a calibration rescales what was counted before it', () => {
  const may = calibration('2026-05-12T09:00:00Z', 1.04)
  test('and nothing after it: from then on the unit itself was right', () => {
    const history = energyOf(at('2026-05-01 0\n2026-05-11 10\n2026-05-13 10\n2026-05-23 20', [may]))?.history
    if (!history?.ok) throw new Error('no history')
    expect(history.value.intervals.map((i) => Number(i.corrected.toFixed(6)))).toEqual([10.4, 0, 10])
    expect(history.value.corrected).toBeCloseTo(20.4, 9)
  })
  test('a year later it is calibrated again: each holds back to the one before', () => {
    expect(
      factorsOf(
        [
          { at: '2026-05-12T09:00:00Z', gain: 1.04 },
          { at: '2027-05-12T09:00:00Z', gain: 0.99 },
        ],
        '2026-01-01T00:00:00Z',
      ),
    ).toEqual([
      { from: '2026-01-01T00:00:00Z', old: 1, new: 1.04 },
      { from: '2026-05-12T09:00:00Z', old: 1.04, new: 1.04 * 0.99 },
      { from: '2027-05-12T09:00:00Z', old: 1.04 * 0.99, new: 1.04 * 0.99 },
    ])
  })
  test('one from before the first reading changes nothing that was counted', () => {
    const history = energyOf(at('2026-06-01 0\n2026-06-11 10', [may]))?.history
    expect(history?.ok && history.value.corrected).toBe(10)
  })
  test('by the gain that a unit without an offset was told, where an offset was fitted', () => {
    const both = { ...may, model: 'gainOffset', gain: 1.04161, offset: -0.31, plainGain: 1.04 }
    const history = energyOf(at('2026-05-01 0\n2026-05-11 10', [both]))?.history
    expect(history?.ok && history.value.corrected).toBeCloseTo(10.4, 9)
  })
  test('of voltage or current it says nothing about energy', () => {
    const volts = { ...may, quantity: 'V' }
    const history = energyOf(at('2026-05-01 0\n2026-05-11 10', [volts]))?.history
    expect(history?.ok && history.value.corrected).toBe(10)
  })
})

test('prices of the site hold from their days on; what was used before the first is said to have no price', () => {
  const money = {
    currency: '€',
    hourWorth: null,
    prices: [
      { from: '2026-05-21', perKWh: 0.5 },
      { from: '2026-05-11', perKWh: 0.2 },
    ],
  }
  const cost = (more: object) => {
    const energy = energyOf(
      unit({ meter: { counter: '2026-05-01T00:00Z 0\n2026-05-31T00:00Z 30', ...more } }, { money }),
    )
    if (!energy?.history.ok) throw new Error('no history')
    return [energy.history.value.cost, energy.history.value.unpricedKWh].map((n) => Number(n.toFixed(6)))
  }
  expect(cost({})).toEqual([10 * 0.2 + 10 * 0.5, 10])
  expect(cost({ perKWh: 1 })).toEqual([30, 0])
})

test('a price and a stand-by are worked out beside it', () => {
  const energy = energyOf(at('2026-05-01 0\n2026-05-11 10', [], { perKWh: 0.3, standbyW: 0.9 }))
  if (!energy?.history.ok) throw new Error('no history')
  expect(energy.history.value.cost).toBeCloseTo(3, 9)
  expect(energy.history.value.standby[0]?.kWhPerYear).toBeCloseTo(7.884, 6)
})

test('without a calibration nothing is changed, whatever was counted', () =>
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 500 }), { minLength: 2, maxLength: 20 }), (steps) => {
      const counted = steps.map((_, i) => steps.slice(0, i + 1).reduce((sum, s) => sum + s, 0))
      const text = counted.map((kWh, i) => `2026-05-${String(i + 1).padStart(2, '0')} ${kWh}`).join('\n')
      const history = energyOf(at(text))?.history
      if (!history?.ok) throw new Error('no history')
      expect(history.value.corrected).toBeCloseTo(history.value.total, 9)
    }),
  ))
