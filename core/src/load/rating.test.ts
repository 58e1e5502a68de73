import fc from 'fast-check'
import { severityRank } from '../edge/finding'
import { checkRating } from './rating'

test.each([
  [1200, 230, 10, 'load-fits'],
  [1900, 230, 10, 'load-near-rating'],
  [2300, 230, 10, 'load-near-rating'],
  [2301, 230, 10, 'load-over-rating'],
  [60, 12, 5, 'load-near-rating'],
])('%i W at %i V on %i A: %s', (watts, volts, amps, code) => expect(checkRating(watts, volts, amps).code).toBe(code))

test('never milder when the load rises or the rating falls', () => {
  const amount = fc.integer({ min: 1, max: 5000 })
  fc.assert(
    fc.property(
      amount,
      amount,
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 0, max: 20 }),
      (watts, more, rated, extra) => {
        const rank = (w: number, a: number) => severityRank(checkRating(w, 230, a).severity)
        expect(rank(watts + more, rated)).toBeLessThanOrEqual(rank(watts, rated))
        expect(rank(watts, rated)).toBeLessThanOrEqual(rank(watts, rated + extra))
      },
    ),
  )
})
