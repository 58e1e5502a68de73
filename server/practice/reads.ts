import { desc } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'

export interface PracticeRun {
  id: string
  kind: string
  family: string
  score: number
  data: Record<string, unknown>
  at: string
}

/** The newest practice runs; never read by anything about real units. */
export async function practiceRuns(source: Source, limit = 30): Promise<PracticeRun[]> {
  const rows = await source.select().from(schema.practice).orderBy(desc(schema.practice.at)).limit(limit)
  return rows.map((r) => ({ ...r, data: r.data as Record<string, unknown>, at: r.at.toISOString() }))
}
