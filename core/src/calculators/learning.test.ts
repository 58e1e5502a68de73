import fc from 'fast-check'
import { enoughToLearn, learningAhead, learningOf, minutesAt } from './learning'

const row = (first: number, rate: number, n: number) =>
  Array.from({ length: n }, (_, i) => first * (i + 1) ** Math.log2(rate))
const curveOf = (taken: readonly number[]) => {
  const curve = learningOf(taken)
  if (!curve) throw new Error('no curve')
  return curve
}

describe('how fast one learns', () => {
  test('at 80 % the second, fourth and eighth unit each take four fifths of the one at half their number', () => {
    const curve = curveOf([100, 80, 70.2, 64, 59.6, 56.2, 53.4, 51.2])
    expect(curve.rate).toBeCloseTo(0.8, 2)
    expect(minutesAt(curve, 8) / minutesAt(curve, 4)).toBeCloseTo(0.8, 2)
  })
  test('any curve is found again from its own times', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 500, noNaN: true }),
        fc.double({ min: 0.5, max: 1, noNaN: true }),
        fc.integer({ min: enoughToLearn, max: 60 }),
        (first, rate, n) => {
          const curve = curveOf(row(first, rate, n))
          expect(curve.first / first).toBeCloseTo(1, 6)
          expect(curve.rate).toBeCloseTo(rate, 6)
        },
      ),
    )
  })
  test('four units say nothing, and a time of nothing is no time', () => {
    expect(learningOf([90, 80, 70, 60])).toBeNull()
    expect(learningOf([90, 0, 80, 70, 60])).toBeNull()
    expect(learningOf([])).toBeNull()
  })
  test('who got slower is not taken to go on getting slower, and nobody learns faster than halving', () => {
    expect(curveOf([40, 45, 50, 55, 60]).rate).toBe(1)
    expect(curveOf([400, 40, 4, 0.4, 0.04]).rate).toBe(0.5)
  })
  test('of what is still to come, the next and the last one asked for are as the whole curve has them', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 1, noNaN: true }),
        fc.integer({ min: enoughToLearn, max: 40 }),
        fc.integer({ min: 2, max: 100 }),
        (rate, n, last) => {
          const curve = curveOf(row(120, rate, n))
          const ahead = learningAhead(curve, last)
          expect(minutesAt(ahead, 1) / minutesAt(curve, n + 1)).toBeCloseTo(1, 9)
          expect(minutesAt(ahead, last) / minutesAt(curve, n + last)).toBeCloseTo(1, 9)
          expect(ahead.rate).toBeLessThanOrEqual(1 + 1e-12)
          expect(ahead.rate).toBeGreaterThanOrEqual(0.5 - 1e-12)
        },
      ),
    )
  })
  test('the one next unit alone needs no rate', () => {
    expect(learningAhead(curveOf(row(120, 0.8, 6)), 1)).toEqual({
      first: expect.closeTo(120 * 7 ** Math.log2(0.8), 6),
      rate: 1,
      units: 6,
    })
  })
})
