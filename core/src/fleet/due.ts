import { icsCalendar, icsText } from '../edge/ics'

/** Everything that falls due, whatever it is of: units, references, rings of an update. */

export interface DueThing {
  /** Local day, YYYY-MM-DD. */
  day: string
  what: string
  /** Whose it is: a unit with its number, a meter, an update. */
  of: string
  href: string
  kind: 'unit' | 'reference' | 'update'
}

/** Things that fall due, some of many: how many there are on each day, whether they are among them or not. */
export interface DueDays {
  things: readonly DueThing[]
  /** By local day. */
  perDay: Readonly<Record<string, number>>
}

export interface DueGroup {
  /** Those that are shown, in the order of their days. */
  things: DueThing[]
  all: number
}
export interface DueGroups {
  overdue: DueGroup
  /** Today and the six days after it. */
  week: DueGroup
  later: DueGroup
}

const dayMs = 86_400_000
export const dayPlus = (day: string, n: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + n * dayMs).toISOString().slice(0, 10)

const byDay = (a: DueThing, b: DueThing) =>
  a.day !== b.day ? (a.day < b.day ? -1 : 1) : a.of !== b.of ? (a.of < b.of ? -1 : 1) : 0

/** How many things fall on each day. */
export function countedByDay(days: Iterable<string>): Record<string, number> {
  const perDay: Record<string, number> = {}
  for (const day of days) perDay[day] = (perDay[day] ?? 0) + 1
  return perDay
}

/** In the order of their days, by how near they are. @param most of each group */
export function dueGroups({ things, perDay }: DueDays, today: string, most: number): DueGroups {
  const inOrder = [...things].sort(byDay)
  const nextWeek = dayPlus(today, 7)
  const group = (is: (day: string) => boolean): DueGroup => ({
    things: inOrder.filter((t) => is(t.day)).slice(0, most),
    all: Object.entries(perDay).reduce((n, [day, many]) => (is(day) ? n + many : n), 0),
  })
  return {
    overdue: group((day) => day < today),
    week: group((day) => day >= today && day < nextWeek),
    later: group((day) => day >= nextWeek),
  }
}

/** Weeks of a calendar from Monday on: the one of today, and as many as are wanted. */
export function weeksFrom(today: string, weeks: number): string[][] {
  const at = new Date(`${today}T00:00:00Z`)
  const monday = dayPlus(today, -((at.getUTCDay() + 6) % 7))
  return Array.from({ length: weeks }, (_, w) => Array.from({ length: 7 }, (_, d) => dayPlus(monday, w * 7 + d)))
}

/** All of it as events of whole days. @param stamp ISO moment of the export */
export const dueCalendar = (things: readonly DueThing[], stamp: string): string =>
  icsCalendar(
    'due',
    [...things]
      .sort(byDay)
      .map((t, i) => [
        `UID:due-${t.day.replaceAll('-', '')}-${i + 1}@fresh-coat.invalid`,
        `DTSTAMP:${stamp.replaceAll(/[-:]|\.\d+/g, '')}`,
        `DTSTART;VALUE=DATE:${t.day.replaceAll('-', '')}`,
        `DTEND;VALUE=DATE:${dayPlus(t.day, 1).replaceAll('-', '')}`,
        `SUMMARY:${icsText(`${t.of}: ${t.what}`)}`,
      ]),
  )
