import { parseMac } from './mac'

/** A list whose columns nobody can tell by themselves: a person says which is which. */

export interface Columns {
  mac: number | null
  address: number | null
  name: number | null
}

const separators = ['\t', ';', ',', '|'] as const

/** The rows of a list in cells, cut at the separator that cuts most of its lines alike; at wide gaps where none does. */
export function cellsOf(text: string, mostLines = Number.POSITIVE_INFINITY): string[][] {
  const lines = text
    .split(/\r?\n/)
    .filter((l) => l.trim() !== '')
    .slice(0, mostLines)
  const cut = (line: string, by: string | RegExp) => line.split(by).map((c) => c.trim().replace(/^"(.*)"$/, '$1'))
  const even = (by: string | RegExp) => {
    const counts = new Map<number, number>()
    for (const line of lines.slice(0, 50)) {
      const n = cut(line, by).length
      if (n > 1) counts.set(n, (counts.get(n) ?? 0) + 1)
    }
    return Math.max(0, ...counts.values())
  }
  const options: (string | RegExp)[] = [...separators, /\s{2,}/, /\s+/]
  const best = options.reduce((a, b) => (even(b) > even(a) ? b : a))
  return lines.map((l) => cut(l.trim(), best))
}

const addressLike = /^\d{1,3}(\.\d{1,3}){3}(\/\d+)?$/

/** What looks like what, as a first guess: the column with most MACs, the one with most addresses. */
export function guessColumns(rows: readonly string[][]): Columns {
  const width = Math.max(0, ...rows.map((r) => r.length))
  const most = (fits: (cell: string) => boolean) => {
    const counts = Array.from({ length: width }, (_, i) => rows.filter((r) => fits(r[i] ?? '')).length)
    const best = Math.max(0, ...counts)
    return best === 0 ? null : counts.indexOf(best)
  }
  return { mac: most((c) => parseMac(c) !== null), address: most((c) => addressLike.test(c)), name: null }
}

/** The list again, in a form that needs no guessing: MAC, address and name of each row with one of the first two. */
export function withColumns(text: string, columns: Columns): string {
  const at = (row: string[], i: number | null) => (i === null ? '' : (row[i] ?? '').replace(/[\t\r\n]/g, ' '))
  const rows = cellsOf(text).flatMap((row) => {
    const mac = parseMac(at(row, columns.mac).replace(/[^0-9a-fA-F:.-]/g, '')) ?? ''
    const address = /\d{1,3}(?:\.\d{1,3}){3}/.exec(at(row, columns.address))?.[0] ?? ''
    return mac === '' && address === '' ? [] : [`${mac}\t${address}\t${at(row, columns.name)}`]
  })
  return rows.length === 0 ? '' : ['mac\tip\thost name', ...rows].join('\n')
}
