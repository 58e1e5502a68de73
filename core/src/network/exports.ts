import type { Assignment } from './plan'

/** An address plan as servers and tables take it (brief 05 §3). */

/** A text that a spreadsheet would take for a formula gets a sign in front; quoted as RFC 4180 has it. */
export function csvCell(value: string | number | null): string {
  if (value === null) return ''
  if (typeof value === 'number') return String(value)
  const guarded = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value
  return /[",\r\n]/.test(guarded) ? `"${guarded.replaceAll('"', '""')}"` : guarded
}

export const exportFormats = ['dnsmasq', 'isc', 'csv'] as const
export type ExportFormat = (typeof exportFormats)[number]

/** How a list is written: what stands above it, and what of each unit. */
interface Form {
  head: string
  /** Only of those that have an address. */
  placedOnly: boolean
  of: (a: Assignment, leaseTime: string | null) => string
}
const csvRow = (cells: readonly (string | number | null)[]): string => `${cells.map(csvCell).join(',')}\r\n`
const forms: Record<ExportFormat, Form> = {
  dnsmasq: {
    head: '',
    placedOnly: true,
    of: (a, leaseTime) => `dhcp-host=${a.mac},${a.ip},${a.hostname}${leaseTime ? `,${leaseTime}` : ''}\n`,
  },
  isc: {
    head: '',
    placedOnly: true,
    of: (a) =>
      `host ${a.hostname} {\n  hardware ethernet ${a.mac};\n  fixed-address ${a.ip};\n  option host-name "${a.hostname}";\n}\n`,
  },
  csv: {
    head: csvRow(['number', 'id', 'mac', 'ip', 'hostname', 'group']),
    placedOnly: false,
    of: (a) => csvRow([a.number, a.id, a.mac, a.ip, a.hostname, a.group]),
  },
}

const inForm = ({ placedOnly }: Form, assignments: readonly Assignment[]): readonly Assignment[] =>
  placedOnly ? assignments.filter((a) => a.ip !== null) : assignments

/** The lines that a server, or a table, takes. */
export function exportOf(format: ExportFormat, assignments: readonly Assignment[], leaseTime: string | null): string {
  const form = forms[format]
  return (
    form.head +
    inForm(form, assignments)
      .map((a) => form.of(a, leaseTime))
      .join('')
  )
}

/** The beginning of a text. */
export interface Beginning {
  text: string
  /** How many lines all of it has. */
  lines: number
}

/** The first lines of what `exportOf` writes: of thousands of units only those are written. */
export function exportBegins(
  format: ExportFormat,
  assignments: readonly Assignment[],
  leaseTime: string | null,
  most: number,
): Beginning {
  const form = forms[format]
  const listed = inForm(form, assignments)
  const linesOf = (text: string): string[] => text.match(/[^\n]*\n/g) ?? []
  const head = linesOf(form.head)
  const [first] = listed
  // Each unit has as many lines as any other.
  const each = first ? linesOf(form.of(first, leaseTime)).length : 0
  const shown = listed.slice(0, each === 0 ? 0 : Math.ceil(most / each))
  const lines = [...head, ...shown.flatMap((a) => linesOf(form.of(a, leaseTime)))]
  return { text: lines.slice(0, most).join(''), lines: head.length + each * listed.length }
}
