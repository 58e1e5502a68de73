/** The same result for people: findings as sentences, lists as short tables, the rest as "name: value". */
export function asText(result: Record<string, unknown>): string {
  const lines: string[] = []
  for (const [name, value] of Object.entries(result)) {
    if (name === 'ok') continue
    if (name === 'findings' && Array.isArray(value)) {
      lines.push(
        'findings:',
        ...value.map(
          (f) =>
            `  ${f.severity.padEnd(5)} ${f.code}${f.at == null ? '' : ` (${f.at})`}: ${f.message}${f.next ? ` ${f.next}` : ''}`,
        ),
      )
      if (value.length === 0) lines.push('  none')
    } else if (Array.isArray(value) && value.length > 0 && typeof value[0] === 'object') {
      lines.push(
        `${name}:`,
        ...value.map(
          (row) =>
            `  ${Object.entries(row as object)
              .map(([k, v]) => `${k} ${short(v)}`)
              .join(', ')}`,
        ),
      )
    } else lines.push(`${name}: ${short(value)}`)
  }
  return `${lines.join('\n')}\n`
}

function short(value: unknown): string {
  if (value === null || value === undefined) return '–'
  if (typeof value === 'number') return Number.isInteger(value) ? String(value) : String(Number(value.toPrecision(6)))
  if (typeof value !== 'object') return String(value)
  if (Array.isArray(value)) return value.length ? value.map(short).join(' ') : 'none'
  return Object.entries(value)
    .map(([k, v]) => `${k} ${short(v)}`)
    .join(', ')
}
