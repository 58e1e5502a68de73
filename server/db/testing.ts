import { randomBytes } from 'node:crypto'
import pg from 'pg'
import { connect, type Db } from './client'
import { migrateDatabase } from './migrate'
import { settleRipples } from './ripple'

/** A database of its own for one test file, on the server that DATABASE_URL names; dropped at the end. */
export async function freshDatabase(): Promise<{ db: Db; url: string; end: () => Promise<void> }> {
  const given = process.env.DATABASE_URL
  if (!given) throw new Error('Server tests need DATABASE_URL: bin/test provides it')
  const name = `fresh_coat_${randomBytes(5).toString('hex')}`
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: given })
    await client.connect()
    await client.query(sql)
    await client.end()
  }
  await admin(`create database ${name}`)
  const url = new URL(given)
  url.pathname = `/${name}`
  const { db, end } = connect(url.toString())
  await migrateDatabase(db)
  return {
    db,
    url: url.toString(),
    end: async () => {
      await settleRipples(db)
      await end()
      await admin(`drop database ${name} with (force)`)
    },
  }
}
