/** A local day in words: 2026-07-01 as "1 Jul 2026". What is no day stays as it is. */
export function dayWords(day: string): string {
  const at = new Date(`${day}T12:00:00Z`)
  return Number.isNaN(at.getTime())
    ? day
    : at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
}
