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
