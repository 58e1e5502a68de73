import { sql } from 'drizzle-orm'
import type { Source } from './client'

/** Lists of thousands whose rows change seldom. */
export type KeptList = 'addresses' | 'updates'

const most = 12
/** The newest so many, by when they were asked for last. */
class Newest<V> {
  private readonly held = new Map<string, V>()
  get = (at: string): V | undefined => this.held.get(at)
  has = (at: string): boolean => this.held.has(at)
  put(at: string, value: V): V {
    // Asked for last, it goes last.
    this.held.delete(at)
    this.held.set(at, value)
    for (const oldest of this.held.keys()) {
      if (this.held.size <= most) break
      this.held.delete(oldest)
    }
    return value
  }
}
/** What was worked out, by list, token and key. */
const found = new Newest<unknown>()
/** Rows of a list, by list and key, as they stood under a token. */
const listed = new Newest<{ token: string; rows: readonly Numbered[] }>()

/** Under which token each list stands, whatever this transaction has written. */
export async function tokensOf(source: Source): Promise<Record<KeptList, string | null>> {
  const got = await source.execute(sql`select addresses, updates from list_token`)
  return (got.rows as unknown as Record<KeptList, string>[])[0] ?? { addresses: null, updates: null }
}

interface Numbered {
  id: string
  number: number
}
/** How the rows of a list are read, in whatever order: all of them, or those of some units, of which not all need be in it. */
export interface ListRead<R extends Numbered> {
  all: () => Promise<R[]>
  of: (ids: readonly string[]) => Promise<R[]>
}

/** What comes of it is shared, and nobody changes it. */
export interface Kept {
  /** What was worked out of the list as it stands, or is worked out now. */
  once: <T>(key: string, make: () => T | Promise<T>) => Promise<T>
  /** Its rows, by their numbers: of a list that was read before, only those that changed since are read. */
  rows: <R extends Numbered>(key: string, read: ListRead<R>) => Promise<readonly R[]>
}

const inOrder = <R extends Numbered>(rows: readonly R[]): R[] => [...rows].sort((a, b) => a.number - b.number)

/** With more to read anew, all are read. */
const mostAnew = 500

/** Units of which rows changed since a list stood under a token; null: nobody knows that any more, or they are too many. */
async function changedSince(source: Source, list: KeptList, token: string): Promise<string[] | null> {
  const got = await source.execute(
    sql`select units from list_past where list = ${list} and n > (select n from list_past where list = ${list} and token = ${token})`,
  )
  const changes = (got.rows as unknown as { units: string[] | null }[]).map((r) => r.units)
  // Whoever asks has another token, which comes of a change: where none is told, this one is forgotten or was never here.
  if (changes.length === 0 || changes.includes(null)) return null
  const ids = [...new Set(changes.flatMap((units) => units ?? []))]
  return ids.length > mostAnew ? null : ids
}

async function rowsAt<R extends Numbered>(
  source: Source,
  list: KeptList,
  token: string,
  key: string,
  read: ListRead<R>,
) {
  const at = `${list} ${key}`
  const before = listed.get(at) as { token: string; rows: readonly R[] } | undefined
  if (before?.token === token) return before.rows
  const ids = before ? await changedSince(source, list, before.token) : null
  const changed = new Set(ids)
  const rows =
    before && ids ? [...before.rows.filter((r) => !changed.has(r.id)), ...(await read.of(ids))] : await read.all()
  return listed.put(at, { token, rows: inOrder(rows) }).rows as readonly R[]
}

/** For whoever may neither give nor take. */
const anew: Kept = { once: async (_, make) => make(), rows: async (_, read) => inOrder(await read.all()) }

/**
 * What is worked out of a list is kept for as long as nobody changes what is read of it. The token comes before whatever is read: outside
 * a snapshot that may be newer than its token, never older. Of another database it cannot be: each change gives a token that was never
 * there before. Where this transaction has written nothing is kept, and nothing taken: others must not get what it has not committed.
 */
export async function keptOf(source: Source, list: KeptList): Promise<Kept> {
  const got = await source.execute(
    sql`select case when pg_current_xact_id_if_assigned() is null then ${sql.identifier(list)}::text end as token from list_token`,
  )
  const token = (got.rows as unknown as { token: string | null }[])[0]?.token ?? null
  if (token === null) return anew
  return {
    once: async <T>(key: string, make: () => T | Promise<T>): Promise<T> => {
      const at = `${list} ${token} ${key}`
      return found.put(at, found.has(at) ? (found.get(at) as T) : await make()) as T
    },
    rows: (key, read) => rowsAt(source, list, token, key, read),
  }
}
