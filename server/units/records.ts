import { putTogether, type SeriesRow, type Stored } from '@fresh-coat/core/unit/record'
import { records as kinds, readRecord } from '@fresh-coat/core/unit/records'
import type { OnlyOnes } from '@fresh-coat/core/unit/rules'
import { prefilled } from '@fresh-coat/core/unit/steps'
import type { BoardKnowledge, DoneMark, StepRecord, UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import { sha256Of } from '../files/blobs'
import type { UnitBundle } from './bundle'

/** Records of a unit as they are stored: a document per step, rows of its lists, blobs of its long texts. */

export type RecordRow = NonNullable<UnitBundle['records']>[number]
type Pieces = Pick<UnitBundle, 'records' | 'series' | 'texts'>

export interface RawRecord {
  row: RecordRow
  data: Stored
  /** A long text whose stored bytes do not fit their hash. */
  damaged: string | null
}

/** A record as it lies in the database, whether or not this version can read it. */
export function rawRecord(pieces: Pieces, step: StepId): RawRecord | null {
  const row = pieces.records?.find((r) => r.step === step)
  if (!row) return null
  if (typeof row.data !== 'object' || row.data === null || Array.isArray(row.data))
    return { row, data: row.data as Stored, damaged: null }
  const rows: SeriesRow[] = pieces.series?.filter((s) => s.step === step) ?? []
  const texts: Record<string, string> = {}
  let damaged: string | null = null
  for (const t of pieces.texts?.filter((x) => x.step === step) ?? []) {
    const bytes = Buffer.from(t.base64 ?? '', 'base64')
    if (sha256Of(bytes) === t.sha256) texts[t.field] = bytes.toString('utf8')
    else damaged = t.field
  }
  return { row, data: putTogether(kinds[step], { data: row.data as Stored, rows, texts }), damaged }
}

/** A record as this version reads it, or why it cannot. */
export function readRaw<S extends StepId>(step: S, raw: RawRecord): ReturnType<typeof readRecord<S>> {
  if (raw.damaged) return { ok: false, where: `/${raw.damaged}`, what: 'its stored text is damaged' }
  return readRecord(step, raw.row.shape, raw.data)
}

function recordView<S extends StepId>(
  step: S,
  pieces: Pieces,
  board: BoardKnowledge | null,
  only: OnlyOnes,
): StepRecord<S> {
  const raw = rawRecord(pieces, step)
  if (!raw) return { data: prefilled(step, board, only), done: null, version: 0, updatedAt: null }
  const read = readRaw(step, raw)
  const about = { version: raw.row.version, updatedAt: new Date(raw.row.updatedAt).toISOString() }
  // What cannot be read is kept as it is: the step is open until a person decides.
  return read.ok
    ? { data: read.data, done: raw.row.done as DoneMark | null, ...about }
    : { data: prefilled(step, board, only), done: null, ...about, unreadable: { where: read.where, what: read.what } }
}

export const recordsOf = (pieces: Pieces, board: BoardKnowledge | null, only: OnlyOnes): UnitView['records'] =>
  Object.fromEntries(
    stepIds.map((step) => [step, recordView(step, pieces, board, only)]),
  ) as unknown as UnitView['records']
