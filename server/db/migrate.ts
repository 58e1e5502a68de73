import { join } from 'node:path'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import type { Db } from './client'

/** Brings the database to the newest schema; existing rows survive. */
export const migrateDatabase = (db: Db): Promise<void> =>
  migrate(db, { migrationsFolder: join(process.cwd(), 'server', 'db', 'migrations') })
