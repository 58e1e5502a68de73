/**
 * Writes days in English, in UTC, from ms. It is made once and kept: to make one takes a hundred times as long as to write a day with it.
 */
export function dayWriter(options: Intl.DateTimeFormatOptions): (ms: number) => string {
  const form = new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', ...options })
  return (ms) => form.format(ms)
}

const inWords = dayWriter({ day: 'numeric', month: 'short', year: 'numeric' })

/** A local day in words: 2026-07-01 as "1 Jul 2026". What is no day stays as it is. */
export function dayWords(day: string): string {
  const at = Date.parse(`${day}T12:00:00Z`)
  return Number.isNaN(at) ? day : inWords(at)
}

const zoned = new Map<string, Intl.DateTimeFormat>()

/**
 * The day that it is in a time zone at an instant: 2026-11-29T23:30:00Z is 2026-11-30 in Europe/Berlin. What people did is dated
 * by the day on their own calendar. Throws RangeError for a zone or an instant that is none.
 */
export function dayOf(instant: string, zone: string): string {
  const form = zoned.get(zone) ?? new Intl.DateTimeFormat('en-GB', { timeZone: zone, dateStyle: 'short' })
  zoned.set(zone, form)
  const [day, month, year] = form.format(Date.parse(instant)).split('/')
  return `${year}-${month}-${day}`
}
