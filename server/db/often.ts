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

type Query = (first: unknown, ...rest: unknown[]) => unknown

/** Gives the statements with values that go down a connection their names. Those that have one already keep it. */
export function nameOften(client: pg.PoolClient, often: Often): void {
  const query = client.query.bind(client) as Query
  const named: Query = (first, ...rest) => {
    if (!Array.isArray(rest[0])) return query(first, ...rest)
    const config = typeof first === 'string' ? { text: first } : (first as { text?: string; name?: string })
    const name = config.name ?? (config.text === undefined ? undefined : often.nameOf(config.text))
    return query(name === undefined ? first : { ...config, name }, ...rest)
  }
  client.query = named as typeof client.query
}
