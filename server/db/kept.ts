import { sql } from 'drizzle-orm'
import type { Source } from './client'

/** Lists of thousands whose rows change seldom. */
export type KeptList = 'addresses' | 'updates'

const most = 12
const found = new Map<string, unknown>()

function keptOr<T>(at: string, value: T): T {
  // Asked for last, it goes last.
  found.delete(at)
  found.set(at, value)
  for (const oldest of found.keys()) {
    if (found.size <= most) break
    found.delete(oldest)
  }
  return value
}

/** Under which token each list stands, whatever this transaction has written. */
export async function tokensOf(source: Source): Promise<Record<KeptList, string | null>> {
  const got = await source.execute(sql`select addresses, updates from list_token`)
  return (got.rows as unknown as Record<KeptList, string>[])[0] ?? { addresses: null, updates: null }
}

/** What was worked out of a list as it stands, or is worked out now; what comes of it is shared, and nobody changes it. */
export type Kept = <T>(key: string, make: () => T | Promise<T>) => Promise<T>

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
  if (token === null) return async (_, make) => make()
  return async <T>(key: string, make: () => T | Promise<T>): Promise<T> => {
    const at = `${list} ${token} ${key}`
    return keptOr(at, found.has(at) ? (found.get(at) as T) : await make())
  }
}
