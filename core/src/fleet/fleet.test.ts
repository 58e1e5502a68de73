import fc from 'fast-check'
import { benchMinutes, paceOf } from './bench-time'
import { nextName } from './next-name'

const at = (...minutes: number[]) => minutes.map((m) => new Date(Date.UTC(2026, 10, 25, 10, m)).toISOString())

describe('time at the bench, from events', () => {
  test('gaps under twenty minutes are work, longer ones a break', () => {
    expect(benchMinutes([])).toBe(0)
    expect(benchMinutes(at(0))).toBe(1)
    expect(benchMinutes(at(0, 5, 12))).toBe(13)
    expect(benchMinutes(at(0, 5, 50, 55))).toBe(1 + 5 + 1 + 5)
  })
  test('the order of the events does not matter, and more of them never shorten it by more than nothing', () =>
    fc.assert(
      fc.property(fc.array(fc.nat(600), { minLength: 1, maxLength: 30 }), (minutes) => {
        expect(benchMinutes(at(...minutes))).toBeCloseTo(benchMinutes(at(...[...minutes].reverse())), 9)
        expect(benchMinutes(at(...minutes))).toBeLessThanOrEqual(
          Math.max(...minutes) - Math.min(...minutes) + minutes.length,
        )
      }),
    ))
  test('later units against the first', () => {
    const unit = (number: number, day: number, minutes: number) => ({
      number,
      begun: `2026-11-${String(day).padStart(2, '0')}T10:00:00Z`,
      minutes,
      done: number < 4,
    })
    const pace = paceOf([unit(3, 9, 20), unit(1, 2, 40), unit(2, 5, 30), unit(4, 10, 3)])
    expect(pace.units.map((u) => u.number)).toEqual([1, 2, 3, 4])
    expect(pace).toMatchObject({ median: 30, share: 25 / 40 })
    expect(paceOf([unit(1, 2, 40)])).toMatchObject({ median: null, share: null })
  })
})

describe('names that count on', () => {
  test.each([
    ['Heater A', [], 'Heater B'],
    ['Heater A', ['heater b'], 'Heater C'],
    ['Plug 9', [], 'Plug 10'],
    ['Plug 9', ['Plug 10'], 'Plug 11'],
    ['Moon lamp', ['Moon lamp'], 'Moon lamp 2'],
    ['Fan Y', ['Fan Z'], 'Fan 2'],
  ])('%s, taken %j: %s', (name, taken, next) => expect(nextName(name, taken)).toBe(next))
  test('never one that is taken', () =>
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 20 }), fc.array(fc.string()), (name, taken) =>
        expect(taken.map((t) => t.trim().toLowerCase())).not.toContain(nextName(name, taken).toLowerCase()),
      ),
    ))
})
