import type { Json } from '@fresh-coat/core/edge/patch'
import type { PgTable } from 'drizzle-orm/pg-core'
import * as schema from './schema'

/** Rows that people change: each has an id, a version and a place to be struck. The names stand in events, so they never change. */
export const tables = {
  board: schema.board,
  boardFact: schema.boardFact,
  unit: schema.unit,
  stepRecord: schema.stepRecord,
  stepSeries: schema.stepSeries,
  stepText: schema.stepText,
  gate: schema.gate,
  attempt: schema.attempt,
  trouble: schema.trouble,
  marking: schema.marking,
  setting: schema.setting,
  calibration: schema.calibration,
  hub: schema.hub,
  hubTest: schema.hubTest,
  kit: schema.kit,
  profile: schema.profile,
  file: schema.file,
  secret: schema.secret,
  toolWords: schema.toolWords,
} as const
export type TableName = keyof typeof tables
export type RowOf<T extends TableName> = (typeof tables)[T]['$inferSelect']
export type NewRow<T extends TableName> = (typeof tables)[T]['$inferInsert']
export type AnyRow = { id: string; version: number; struckAt: Date | null } & Record<string, unknown>
type AnyTable = PgTable & { id: never; version: never; struckAt: never }
/** A table whose rows are only known to be changeable ones. */
export const anyTable = (table: TableName): AnyTable => tables[table] as unknown as AnyTable

/**
 * Columns that no event tells of: what is worked out from others, what is not worth undoing, and what must never be
 * copied.
 */
const untold: Partial<Record<TableName, ReadonlySet<string>>> = {
  unit: new Set(['inHand', 'slug', 'ownSlug', 'pinned', 'spoken']),
  attempt: new Set(['boardId']),
  trouble: new Set(['boardId']),
  secret: new Set(['nonce', 'sealed']),
}

/** A row as its event tells it: JSON, without what is untold. */
export function toldOf(table: TableName, row: AnyRow): Record<string, Json> {
  const told = Object.entries(row).filter(([key]) => key !== 'version' && !untold[table]?.has(key))
  return JSON.parse(JSON.stringify(Object.fromEntries(told)))
}

/** Units that a row belongs to. */
export function unitOfRow(table: TableName, row: AnyRow): string | null {
  if (table === 'unit') return row.id
  return typeof row.unitId === 'string' && table !== 'boardFact' ? row.unitId : null
}

/** What a changed row of something shared concerns: the units that have to be looked at again, in the background. */
export function concernOf(table: TableName, row: AnyRow): { kind: RippleKind; ref: string } | null {
  switch (table) {
    case 'board':
      return { kind: 'board', ref: row.id }
    case 'boardFact':
      return { kind: 'board', ref: row.boardId as string }
    case 'kit':
      return row.kind === 'adapter' || row.kind === 'module' ? { kind: row.kind, ref: row.id } : null
    case 'profile':
      return { kind: 'firmware', ref: row.name as string }
    case 'setting':
      return { kind: 'all', ref: row.key as string }
    default:
      return null
  }
}
export const rippleKinds = ['board', 'adapter', 'module', 'firmware', 'all', 'name'] as const
export type RippleKind = (typeof rippleKinds)[number]
