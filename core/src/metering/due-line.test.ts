import fc from 'fast-check'
import { type DueMeter, daysUntil, dueSpan } from './due-line'

const meter = (due: string | null): DueMeter => ({ number: 4, name: 'x', worstPct: 0.1, limitPassed: true, due })

describe('meters over their due days', () => {
  test('days count across months, years and the change of clocks', () => {
    expect(daysUntil('2026-11-27', '2026-11-27')).toBe(0)
    expect(daysUntil('2027-01-01', '2026-12-31')).toBe(1)
    expect(daysUntil('2026-10-23', '2026-11-27')).toBe(-35)
    expect(daysUntil('2026-03-30', '2026-03-28')).toBe(2)
  })
  test('every dated meter lies on the line, which is never shorter than a month each way', () => {
    const day = fc
      .integer({ min: -2000, max: 2000 })
      .map((n) => new Date(Date.UTC(2026, 10, 27 + n)).toISOString().slice(0, 10))
    fc.assert(
      fc.property(fc.array(fc.option(day)), (days) => {
        const { from, to, step } = dueSpan(days.map(meter), '2026-11-27')
        expect([from % step, to % step].map(Math.abs)).toEqual([0, 0])
        expect((to - from) / step).toBeLessThanOrEqual(12)
        expect(from).toBeLessThanOrEqual(-30)
        expect(to).toBeGreaterThanOrEqual(30)
        for (const d of days) {
          if (d === null) continue
          const at = daysUntil(d, '2026-11-27')
          expect(at >= from && at <= to).toBe(true)
        }
      }),
    )
  })
})
