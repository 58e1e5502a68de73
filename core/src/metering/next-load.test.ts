import fc from 'fast-check'
import { nextLoad } from './next-load'

const load = (watts: number) => ({ id: String(watts), name: `${watts} W`, watts })
const yard = [60, 120, 500, 1000, 1920].map(load)

describe('the load to take next', () => {
  test('begins with the smallest, then goes where nothing was taken yet', () => {
    expect(nextLoad(yard, [])?.watts).toBe(60)
    expect(nextLoad(yard, [60])?.watts).toBe(1920)
    expect(nextLoad(yard, [58.1, 1844])?.watts).toBe(500)
  })
  test('none is left when every load was taken, whatever the meter showed', () => {
    expect(nextLoad(yard, [58.1, 115.9, 481, 961.8, 1844.6])).toBeNull()
    expect(nextLoad([], [])).toBeNull()
  })
  test('is one of those on hand, and never one that was just taken', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 3000 }), { maxLength: 8 }),
        fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 8 }),
        (watts, taken) => {
          const next = nextLoad(watts.map(load), taken)
          if (next === null) return
          expect(watts).toContain(next.watts)
          expect(taken).not.toContain(next.watts)
        },
      ),
    )
  })
})
