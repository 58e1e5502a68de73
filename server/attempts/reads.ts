import { type KeptTable, keptTable } from '@fresh-coat/core/unit/chip-layout'
import type { Attempt, TroubleRecord } from '@fresh-coat/core/unit/view'
import { attemptData } from './stored'

/** An attempt as a query gives it as JSON. */
export interface JsonAttempt {
  id: string
  at: string
  data: unknown
  struck?: boolean
}

/** A file that was written, with what is known of it. */
export interface WrittenFile {
  sha256: string
  release: string
  options: string[] | null
  table: Parameters<typeof keptTable>[0]
}

/** What is known of the files that were written, by their hash. */
export type Written = ReadonlyMap<string, { table: KeptTable | null; build: string; options: string[] | null }>

export const writtenBy = (files: readonly WrittenFile[] | null): Written =>
  new Map(
    (files ?? []).map((f) => [
      f.sha256,
      {
        table: f.table.kind ? keptTable({ ...f.table, findings: f.table.findings ?? [] }) : null,
        options: Array.isArray(f.options) ? f.options.map(String) : null,
        build: /^[^/]+\/(.+)$/.exec(f.release)?.[1] ?? '',
      },
    ]),
  )

export const iso = (at: string): string => new Date(at).toISOString()

export function attemptView(row: JsonAttempt, unitNumber: number, written: Written): Attempt {
  const data = attemptData(row.data)
  const { table = null, build = '', options = null } = written.get(data.sha256) ?? {}
  return { ...data, id: row.id, at: iso(row.at), unitNumber, table, build, options }
}

/** Writes and reads apart: what was written, and what that taught, must not be mixed up with reading. */
export const byAction = (all: readonly Attempt[]) => ({
  attempts: all.filter((a) => a.action !== 'read'),
  reads: all.filter((a) => a.action === 'read'),
})

export type JsonTrouble = Omit<TroubleRecord, 'openedAt' | 'closedAt'> & { openedAt: string; closedAt: string | null }

export const troubleView = (t: JsonTrouble): TroubleRecord => ({
  ...t,
  openedAt: iso(t.openedAt),
  closedAt: t.closedAt && iso(t.closedAt),
})
