import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import * as schema from './schema'

export type Db = NodePgDatabase<typeof schema>
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0]
/** What a query can run on: the pool, or a transaction. */
export type Source = Db | Tx

const kept = globalThis as unknown as { freshCoatPool?: pg.Pool; freshCoatDb?: Db }

/** One pool per process, also across reloads in development. A lost connection is replaced at the next query. */
function pool(): pg.Pool {
  if (!kept.freshCoatPool) {
    const connectionString = process.env.DATABASE_URL
    if (!connectionString) throw new Error('DATABASE_URL is not set: start with bin/start')
    kept.freshCoatPool = new pg.Pool({ connectionString, max: 8, connectionTimeoutMillis: 5000 })
    kept.freshCoatPool.on('error', (cause) => console.error('database connection lost:', cause.message))
  }
  return kept.freshCoatPool
}

export function database(): Db {
  kept.freshCoatDb ??= drizzle(pool(), { schema })
  return kept.freshCoatDb
}

/** Ends this process's pool; the next query makes another. */
export async function closeDatabase(): Promise<void> {
  const open = kept.freshCoatPool
  kept.freshCoatPool = undefined
  kept.freshCoatDb = undefined
  await open?.end()
}

/** Throws while the database does not answer. */
export const answers = (): Promise<unknown> => database().execute('select 1')

/** Everything a page shows, as of one moment: what is read later agrees with what was read first. */
export const inSnapshot = <R>(db: Db, read: (tx: Tx) => Promise<R>): Promise<R> =>
  db.transaction(read, { isolationLevel: 'repeatable read', accessMode: 'read only' })

/** A database of its own, for scripts and tests. */
export function connect(connectionString: string): { db: Db; end: () => Promise<void> } {
  const own = new pg.Pool({ connectionString, max: 4 })
  let ended = false
  own.on('error', (cause) => {
    if (!ended) console.error('database connection lost:', cause.message)
  })
  return {
    db: drizzle(own, { schema }),
    end: () => {
      ended = true
      return own.end()
    },
  }
}
