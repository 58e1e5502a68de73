import { utf8 } from '../bytes/text'

/** Calendars as RFC 5545 has them: text escaped, lines folded at 75 octets, CRLF. */

/** One line, folded: at most 75 octets, what follows behind a blank. */
function folded(line: string): string {
  const out: string[] = []
  let now = ''
  for (const c of line) {
    const room = out.length === 0 ? 75 : 74
    if (utf8(now + c).length > room) {
      out.push(now)
      now = c
    } else now += c
  }
  return [...out, now].join('\r\n ')
}

export const icsText = (text: string): string =>
  text
    .replaceAll('\\', '\\\\')
    .replaceAll(';', '\\;')
    .replaceAll(',', '\\,')
    .replaceAll(/\r\n|\r|\n/g, '\\n')

/** "2026-06-01T10:00:00Z" as 20260601T100000Z. */
export const icsTime = (iso: string): string => iso.replaceAll(/[-:]/g, '')

/** A calendar of events, each given by its lines. @param maker last part of the product identifier */
export const icsCalendar = (maker: string, events: readonly (readonly string[])[]): string =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    `PRODID:-//Fresh Coat//${maker}//EN`,
    ...events.flatMap((lines) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT']),
    'END:VCALENDAR',
  ]
    .map((l) => `${folded(l)}\r\n`)
    .join('')
