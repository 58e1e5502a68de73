import { desc, eq } from 'drizzle-orm'
import type { Source } from './client'
import * as schema from './schema'

export interface LogLine {
  id: number
  at: string
  sentence: string
  unitNumber: number | null
  undone: boolean
}

/** The newest events, of one unit or of all; the edits that led to another line of the same step are left out. */
export async function recentEvents(source: Source, limit: number, unitId?: string): Promise<LogLine[]> {
  const rows = await source
    .select({
      id: schema.event.id,
      at: schema.event.until,
      kind: schema.event.kind,
      step: schema.event.step,
      sentence: schema.event.sentence,
      undoneAt: schema.event.undoneAt,
      unitId: schema.event.unitId,
      number: schema.unit.number,
    })
    .from(schema.event)
    .leftJoin(schema.unit, eq(schema.event.unitId, schema.unit.id))
    .where(unitId ? eq(schema.event.unitId, unitId) : undefined)
    .orderBy(desc(schema.event.id))
    .limit(limit * 3)
  const out: LogLine[] = []
  let last = ''
  for (const r of rows) {
    // What was typed on the way to a later line of the same step is told by that line.
    const key = `${r.unitId} ${r.step}`
    if (r.kind === 'step-edited' && key === last) continue
    last = r.step === null ? '' : key
    out.push({
      id: r.id,
      at: r.at.toISOString(),
      sentence: r.sentence,
      unitNumber: r.number,
      undone: r.undoneAt !== null,
    })
  }
  return out.slice(0, limit)
}
