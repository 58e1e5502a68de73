import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { join } from 'node:path'
import type { Db } from './db'

/** Brings the database to the newest schema; existing rows survive. */
export const migrateDatabase = (db: Db): Promise<void> => migrate(db, { migrationsFolder: join(process.cwd(), 'server', 'migrations') })
