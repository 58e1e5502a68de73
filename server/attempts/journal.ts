import { parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { Journal } from '@fresh-coat/core/link/journal'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'

const { unit, writeJournal } = schema

/** The unit with this case number; null where there is none. */
async function unitIdOf(db: Source, number: number): Promise<string | null> {
  if (!Number.isInteger(number)) return null
  const [row] = await db
    .select({ id: unit.id })
    .from(unit)
    .where(and(eq(unit.number, number), isNull(unit.struckAt)))
  return row?.id ?? null
}

/** The unfinished write of a unit as the server keeps it; null where there is none. */
export async function journalOf(db: Source, number: number): Promise<Journal | null> {
  const [row] = await db
    .select({ journal: writeJournal.journal })
    .from(writeJournal)
    .innerJoin(unit, eq(unit.id, writeJournal.unitId))
    .where(and(eq(unit.number, number), isNull(unit.struckAt)))
  const kept = row && parseInput(Journal, row.journal, strictCodes)
  return kept?.ok ? kept.value : null
}

/**
 * Keeps the journal of a unit. What comes late never replaces what is newer: a browser that was asleep cannot take a
 * write back that another one has finished since. False where there is no such unit.
 */
export async function keepJournal(db: Source, number: number, journal: Journal): Promise<boolean> {
  const unitId = await unitIdOf(db, number)
  if (unitId === null) return false
  await db
    .insert(writeJournal)
    .values({ unitId, journal })
    .onConflictDoUpdate({
      target: writeJournal.unitId,
      set: { journal, updatedAt: sql`now()` },
      setWhere: sql`${writeJournal.journal} ->> 'updatedAt' <= ${journal.updatedAt}`,
    })
  return true
}

/** Nothing is half written any more. It belongs into the transaction that says so. */
export const dropJournal = (db: Source, unitId: string): Promise<unknown> =>
  db.delete(writeJournal).where(eq(writeJournal.unitId, unitId))
