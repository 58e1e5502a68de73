import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import { nameOften, Often } from './often'
import * as schema from './schema'

export type Db = NodePgDatabase<typeof schema>
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0]
/** What a query can run on: the pool, or a transaction. */
export type Source = Db | Tx

const kept = globalThis as unknown as { freshCoatPool?: pg.Pool; freshCoatDb?: Db }

/**
 * A pool of connections down which statements go without waiting for each other's answers. A connection that is lost while somebody
 * holds it tells those who wait for an answer; as an event nobody hears it would end the process.
 */
function poolOf(connectionString: string, max: number): pg.Pool {
  const made = new pg.Pool({ connectionString, max, connectionTimeoutMillis: 5000, pipeline: true })
  const often = new Often()
  made.on('connect', (client) => {
    client.on('error', () => {})
    nameOften(client, often)
  })
  return made
}

/** One pool per process, also across reloads in development. A lost connection is replaced at the next query. */
function pool(): pg.Pool {
  if (!kept.freshCoatPool) {
    const connectionString = process.env.DATABASE_URL
    if (!connectionString) throw new Error('DATABASE_URL is not set: start with bin/start')
    kept.freshCoatPool = poolOf(connectionString, 8)
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

/** What queries of a connection are made with, once for each. */
const over = new WeakMap<pg.PoolClient, Db>()
function on(client: pg.PoolClient): Db {
  const made = over.get(client) ?? (drizzle(client, { schema }) as unknown as Db)
  over.set(client, made)
  return made
}

/**
 * Everything a page shows, as of one moment: what is read later agrees with what was read first. Its statements go down the line
 * without waiting for each other's answers, beginning and end among them: nothing is written here that could be lost at the end.
 */
export async function inSnapshot<R>(db: Db, read: (source: Db) => Promise<R>): Promise<R> {
  const client = await (db as unknown as { $client: pg.Pool }).$client.connect()
  const begun = client.query('begin isolation level repeatable read read only')
  // Without it the first read fails as well, and says so.
  begun.catch(() => {})
  try {
    const found = await read(on(client))
    await begun
    void client.query('commit').then(
      () => client.release(),
      (cause: Error) => client.release(cause),
    )
    return found
  } catch (cause) {
    await client.query('rollback').then(
      () => client.release(),
      (lost: Error) => client.release(lost),
    )
    throw cause
  }
}

const queries = new WeakMap<Source, Map<string, unknown>>()

/** A query that is put into words once for each connection, by its name. */
export function putOnce<Q>(source: Source, name: string, make: () => Q): Q {
  const known = queries.get(source) ?? new Map<string, unknown>()
  queries.set(source, known)
  const query = (known.get(name) as Q | undefined) ?? make()
  known.set(name, query)
  return query
}

/** A database of its own, for scripts and tests. */
export function connect(connectionString: string): { db: Db; end: () => Promise<void> } {
  const own = poolOf(connectionString, 4)
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
