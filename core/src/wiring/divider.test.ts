import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import { type DividerCheck, type DividerPair, planDivider } from './divider'
import examples from './divider.examples.json'

const check = (input: object) => computed(planDivider({ mode: 'check', ...input })) as DividerCheck

describe('divider in front of RX', () => {
  test.each(examples)('worked example %#', ({ in: input, out }) => expectLike(computed(planDivider(input)), out, 0.005))
  test('too high before too low before too slow', () => {
    expect(check({ vin: 5, rTop: 1000, rBottom: 4700 }).verdict).toBe('too_high')
    expect(check({ vin: 5, rTop: 3300, rBottom: 1800 }).verdict).toBe('too_low')
    expect(check({ vin: 5, rTop: 1800, rBottom: 3300, loadPf: 20000 }).verdict).toBe('too_slow')
  })
  test('the designed pair passes its own check', () =>
    fc.assert(
      fc.property(fc.double({ min: 2.6, max: 3.5, noNaN: true }), fc.constantFrom('E12', 'E24'), (vout, series) => {
        const { pairs } = computed(planDivider({ mode: 'design', vin: 5, vout, series })) as { pairs: DividerPair[] }
        expect(pairs.length).toBe(3)
        for (const pair of pairs) {
          const found = check({ vin: 5, rTop: pair.rTop, rBottom: pair.rBottom })
          expect(found.vout).toBeCloseTo(pair.vout, 9)
          expect(pair.total).toBeGreaterThanOrEqual(1000)
          expect(pair.total).toBeLessThanOrEqual(10000)
        }
        expect(Math.abs(pairs[0]?.errorPct ?? 99)).toBeLessThanOrEqual(Math.abs(pairs[1]?.errorPct ?? 0) + 1e-9)
      }),
    ))
})

describe('bad input', () => {
  const design = { mode: 'design', vin: 5, vout: 3.3 }
  test.each([
    [{ mode: 'check', vin: 25, rTop: 1, rBottom: 1 }, 'range', '/vin'],
    [{ mode: 'check', vin: -1, rTop: 1, rBottom: 1 }, 'range', '/vin'],
    [{ mode: 'check', vin: 5, rTop: 0, rBottom: 1 }, 'range', '/rTop'],
    [{ mode: 'check', vin: 5, rTop: 1 }, 'missing', '/rBottom'],
    [{ ...design, vout: 5 }, 'range', '/vout'],
    [{ ...design, series: 'E96' }, 'range', '/series'],
    [{ ...design, minTotal: 1e8, maxTotal: 1e9 }, 'empty', '/minTotal'],
    [{ vin: 5 }, 'missing', '/mode'],
  ])('%#', (input, code, path) => expect(refusalOf(planDivider(input))).toEqual([code, path]))
})
