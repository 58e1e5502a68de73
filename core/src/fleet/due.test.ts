import fc from 'fast-check'
import { type DueThing, dayPlus, dueCalendar, dueGroups, weeksFrom } from './due'

const thing = (day: string, of = '07 Glue pot', what = 'Meter re-check'): DueThing => ({
  day,
  what,
  of,
  href: '/units/7/meter',
  kind: 'unit',
})
const day = fc.integer({ min: -400, max: 400 }).map((n) => dayPlus('2026-11-28', n))

describe('what falls due', () => {
  test('is overdue before today, of this week for seven days, else later', () => {
    const groups = dueGroups(
      ['2026-12-05', '2026-12-04', '2026-11-28', '2026-11-27'].map((d) => thing(d)),
      '2026-11-28',
    )
    expect(groups.overdue.map((t) => t.day)).toEqual(['2026-11-27'])
    expect(groups.week.map((t) => t.day)).toEqual(['2026-11-28', '2026-12-04'])
    expect(groups.later.map((t) => t.day)).toEqual(['2026-12-05'])
  })
  test('nothing is lost or twice, and each group is in the order of its days', () => {
    fc.assert(
      fc.property(fc.array(day), (days) => {
        const { overdue, week, later } = dueGroups(
          days.map((d) => thing(d)),
          '2026-11-28',
        )
        expect([...overdue, ...week, ...later].map((t) => t.day)).toEqual([...days].sort())
      }),
    )
  })
  test('weeks begin on Monday and hold today in the first', () => {
    fc.assert(
      fc.property(day, (today) => {
        const weeks = weeksFrom(today, 3)
        expect(new Date(`${weeks[0]?.[0]}T00:00:00Z`).getUTCDay()).toBe(1)
        expect(weeks[0]).toContain(today)
        expect(new Set(weeks.flat()).size).toBe(21)
      }),
    )
  })
  test('is a calendar of whole days, with what would break its lines escaped', () => {
    const lines = dueCalendar([thing('2026-12-31', 'Meter; big, old')], '2026-11-28T15:00:00.123Z').split('\r\n')
    expect(lines).toEqual([
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'PRODID:-//Fresh Coat//due//EN',
      'BEGIN:VEVENT',
      'UID:due-20261231-1@fresh-coat.invalid',
      'DTSTAMP:20261128T150000Z',
      'DTSTART;VALUE=DATE:20261231',
      'DTEND;VALUE=DATE:20270101',
      'SUMMARY:Meter\\; big\\, old: Meter re-check',
      'END:VEVENT',
      'END:VCALENDAR',
      '',
    ])
  })
  test('no line of it is longer than 75 octets, whatever is in it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), (text) => {
        for (const line of dueCalendar([thing('2026-12-01', text, text)], '2026-11-28T15:00:00Z').split('\r\n'))
          expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75)
      }),
    )
  })
})
