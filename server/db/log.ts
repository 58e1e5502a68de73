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

/** An event as a query gives it. */
export interface LogRow {
  id: number
  at: string | Date
  kind: string
  step: string | null
  sentence: string
  undone: boolean
  unitId: string | null
  number: number | null
}

/** Newest first; the edits that led to another line of the same step are told by that line. */
export function logLines(rows: readonly LogRow[], limit: number): LogLine[] {
  const out: LogLine[] = []
  let last = ''
  for (const r of rows) {
    const key = `${r.unitId} ${r.step}`
    if (r.kind === 'step-edited' && key === last) continue
    last = r.step === null ? '' : key
    const at = new Date(r.at).toISOString()
    out.push({ id: r.id, at, sentence: r.sentence, unitNumber: r.number, undone: r.undone })
  }
  return out.slice(0, limit)
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
  return logLines(
    rows.map((r) => ({ ...r, undone: r.undoneAt !== null })),
    limit,
  )
}
