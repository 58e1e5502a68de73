import type pg from 'pg'

/**
 * What is asked again and again is read and planned by the database once for each connection instead of every time: planning is a
 * fifth to four fifths of what a statement of ours costs. It gets a name for that; what comes once (a list of another length, say) stays without.
 */
export class Often {
  private readonly seen = new Set<string>()
  private readonly names = new Map<string, string>()
  /** @param most texts that get a name: every connection keeps a plan of each */
  constructor(private readonly most = 300) {}

  /** The name of a text from its second time on. */
  nameOf(text: string): string | undefined {
    const known = this.names.get(text)
    if (known !== undefined || this.names.size >= this.most) return known
    if (!this.seen.has(text)) {
      // Lists of every length would fill it; what comes often is soon here again.
      if (this.seen.size >= 10 * this.most) this.seen.clear()
      this.seen.add(text)
      return undefined
    }
    this.seen.delete(text)
    const name = `often_${this.names.size}`
    this.names.set(text, name)
    return name
  }
}

const reads = /^\s*(select|with)\b/i
/** Every other piece between quotes is a text, whatever stands in it. */
const hasQuotedSign = (text: string): boolean => text.split("'").some((piece, i) => i % 2 === 1 && /\$\d/.test(piece))
const limited = /\blimit \$(\d+)/gi

/**
 * What is the same every time is written into a read, a yes or no and how many rows at most: as a value that may be another the next
 * time, the database takes any number of rows for possible, and plans anew each time rather than for the worst.
 */
export function spelledOut(text: string, values: readonly unknown[]): { text: string; values: readonly unknown[] } {
  if (!reads.test(text) || hasQuotedSign(text)) return { text, values }
  const limits = new Set([...text.matchAll(limited)].map((found) => Number(found[1])))
  const isSame = (value: unknown, i: number) =>
    typeof value === 'boolean' || (limits.has(i + 1) && Number.isSafeInteger(value) && (value as number) >= 0)
  const left = values.filter((value, i) => !isSame(value, i))
  if (left.length === values.length) return { text, values }
  let n = 0
  const written = values.map((value, i) => (isSame(value, i) ? String(value) : `$${++n}`))
  return { text: text.replace(/\$(\d+)/g, (sign, at) => written[Number(at) - 1] ?? sign), values: left }
}

type Query = (first: unknown, ...rest: unknown[]) => unknown

/** Gives the statements with values that go down a connection their names. Those that have one already keep it. */
export function nameOften(client: pg.PoolClient, often: Often): void {
  const query = client.query.bind(client) as Query
  const named: Query = (first, ...rest) => {
    if (!Array.isArray(rest[0])) return query(first, ...rest)
    const config = typeof first === 'string' ? { text: first } : (first as { text?: string; name?: string })
    if (config.name !== undefined || config.text === undefined) return query(first, ...rest)
    const { text, values } = spelledOut(config.text, rest[0])
    const name = often.nameOf(text)
    return query({ ...config, text, ...(name === undefined ? {} : { name }) }, values, ...rest.slice(1))
  }
  client.query = named as typeof client.query
}
