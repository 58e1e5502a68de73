import fc from 'fast-check'
import { countedByDay, type DueThing, dayPlus, dueCalendar, dueGroups, weeksFrom } from './due'

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
      {
        things: ['2026-12-05', '2026-12-04', '2026-11-28', '2026-11-27'].map((d) => thing(d)),
        perDay: { '2026-11-27': 4, '2026-11-28': 2, '2026-12-04': 1, '2026-12-05': 90, '2028-02-29': 1 },
      },
      '2026-11-28',
      60,
    )
    const days = (g: { things: { day: string }[]; all: number }) => [g.things.map((t) => t.day), g.all]
    expect(days(groups.overdue)).toEqual([['2026-11-27'], 4])
    expect(days(groups.week)).toEqual([['2026-11-28', '2026-12-04'], 3])
    expect(days(groups.later)).toEqual([['2026-12-05'], 91])
  })
  test('nothing is lost or twice, and each group is in the order of its days', () => {
    fc.assert(
      fc.property(fc.array(day), fc.integer({ min: 1, max: 20 }), (days, most) => {
        const due = { things: days.map((d) => thing(d)), perDay: countedByDay(days) }
        const { overdue, week, later } = dueGroups(due, '2026-11-28', 1000)
        expect([overdue, week, later].flatMap((g) => g.things.map((t) => t.day))).toEqual([...days].sort())
        expect(overdue.all + week.all + later.all).toBe(days.length)
        const few = dueGroups(due, '2026-11-28', most)
        expect(few.later.things).toEqual(later.things.slice(0, most))
        expect(few.later.all).toBe(later.all)
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
