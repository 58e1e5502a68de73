import { randomBytes } from 'node:crypto'
import type { StepId } from '@fresh-coat/core/unit/way'
import { and, eq, isNull } from 'drizzle-orm'
import pg from 'pg'
import { type CommandName, runCommand } from '../commands'
import { connect, type Db } from './client'
import type { CommandResult } from './fault'
import { migrateDatabase } from './migrate'
import { settleRipples } from './ripple'
import * as schema from './schema'

/** An empty database of its own, on the server that DATABASE_URL names. */
export async function emptyDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const given = process.env.DATABASE_URL
  if (!given) throw new Error('Server tests need DATABASE_URL: bin/test provides it')
  const name = `fresh_coat_${randomBytes(5).toString('hex')}`
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: given })
    await client.connect()
    try {
      await client.query(sql)
    } finally {
      await client.end()
    }
  }
  await admin(`create database ${name}`)
  // What a test wrote need not survive a power cut.
  await admin(`alter database ${name} set synchronous_commit = off`)
  const url = new URL(given)
  url.pathname = `/${name}`
  const drop = async () => {
    for (let tries = 1; ; tries++)
      try {
        return await admin(`drop database if exists ${name} with (force)`)
      } catch (cause) {
        // The server itself may be tidying up in it at that moment: nobody but its owner ends that.
        if (tries === 40 || (cause as { code?: string }).code !== '42501') throw cause
        await new Promise((done) => setTimeout(done, 250))
      }
  }
  return { url: url.toString(), drop }
}

interface OwnDatabase {
  db: Db
  url: string
  end: () => Promise<void>
}

/** Connected to; at its end nobody works in it any more, and it is dropped. */
export function opened({ url, drop }: { url: string; drop: () => Promise<void> }): OwnDatabase {
  const { db, end } = connect(url)
  return {
    db,
    url,
    end: async () => {
      await settleRipples(db)
      await end()
      await drop()
    },
  }
}

/** A database with the newest schema for one test file; dropped at the end. */
export async function freshDatabase(): Promise<OwnDatabase> {
  const own = opened(await emptyDatabase())
  await migrateDatabase(own.db)
  return own
}

/** Version of a unit's record as it is stored, 0 before the first save. */
export async function heldVersion(db: Db, unitId: string, step: StepId): Promise<number> {
  const { stepRecord } = schema
  const [row] = await db
    .select({ version: stepRecord.version })
    .from(stepRecord)
    .where(and(eq(stepRecord.unitId, unitId), eq(stepRecord.step, step), isNull(stepRecord.struckAt)))
  return row?.version ?? 0
}

/** Runs a command that has to succeed, and gives back what it answered. */
export const runner =
  (db: () => Db) =>
  async (command: CommandName, input: object, at = new Date()): Promise<Record<string, unknown>> => {
    const result = await runCommand(db(), command, input, at)
    if (!result.ok) throw new Error(`${command}: ${result.error.code}: ${result.error.message}`)
    return result.value
  }

/** Code of a refusal, or "ok". */
export const codeOf = (result: CommandResult): string => (result.ok ? 'ok' : result.error.code)

/** Confirms that a unit is off the mains and discharged, with a reading that ends the wait at once. */
export async function unplug(
  run: (command: CommandName, input: Record<string, unknown>) => Promise<unknown>,
  unitId: unknown,
): Promise<void> {
  await run('confirm-gate', { unitId, gate: 'mains-off' })
  await run('confirm-gate', { unitId, gate: 'discharged', measured: '0,4', early: true })
}
