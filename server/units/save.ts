import { type Fault, parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { type Json, sameJson } from '@fresh-coat/core/edge/patch'
import { type SeriesRow, type Stored, takeApart } from '@fresh-coat/core/unit/record'
import { records as kinds, newestShape, type StepData } from '@fresh-coat/core/unit/records'
import { prefilled } from '@fresh-coat/core/unit/steps'
import type { DoneMark } from '@fresh-coat/core/unit/view'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { and, eq } from 'drizzle-orm'
import { boardOf } from '../boards/bundle'
import type { Change } from '../db/change'
import { BadInput, Refused, StaleWrite } from '../db/fault'
import * as schema from '../db/schema'
import { keepBlob, sha256Of } from '../files/blobs'
import type { Bundled } from './bundle'
import { rawRecord, readRaw } from './records'

/** Writes the record of a step: document, rows of its lists, blobs of its long texts. */

export interface Held<S extends StepId> {
  /** Version of what is stored; null before the first save. */
  version: number | null
  updatedAt: string | null
  data: StepData[S]
}

export const unreadable = (step: StepId, where: string, what: string) =>
  new Refused(
    'unreadable',
    `What is stored of ${stepOf(step).title} cannot be read by this version (${where}: ${what}). It is kept as it is.`,
    'Save a copy of it, then begin this step anew.',
  )

/** What a save builds on: the record as it is, or, before the first, what the board knows. */
export function heldRecord<S extends StepId>(on: Bundled, step: S): Held<S> {
  const raw = rawRecord(on.bundle, step)
  if (!raw) {
    const board = on.board && on.bundle.board ? boardOf(on.board, on.bundle.board) : null
    return { version: null, updatedAt: null, data: prefilled(step, board, on.bundle.only) }
  }
  const read = readRaw(step, raw)
  if (!read.ok) throw unreadable(step, read.where, read.what)
  return { version: raw.row.version, updatedAt: new Date(raw.row.updatedAt).toISOString(), data: read.data }
}

/** Refuses a save that builds on another version than the one there is, and hands that one over. */
export function refuseStale<S extends StepId>(held: Held<S>, seen: number): void {
  if (held.version === null && seen > 0)
    throw new Refused('gone', 'This record was undone in the meantime.', 'Reload the page.')
  if (held.version !== null && held.version !== seen)
    throw new StaleWrite({ data: held.data, version: held.version, updatedAt: held.updatedAt })
}

export function parseRecord<S extends StepId>(step: S, data: unknown): StepData[S] {
  const parsed = parseInput(kinds[step].schema, data, strictCodes)
  if (!parsed.ok) throw new BadInput(parsed.faults as Fault[])
  return parsed.value as StepData[S]
}

async function writeSeries(c: Change, unitId: string, step: StepId, rows: readonly SeriesRow[]): Promise<void> {
  if (Object.keys(kinds[step].series).length === 0) return
  const { stepSeries } = schema
  const there = await c.live('stepSeries', and(eq(stepSeries.unitId, unitId), eq(stepSeries.step, step)))
  const keyOf = (r: { series: string; key: string }) => `${r.series}\n${r.key}`
  const wanted = new Map(rows.map((r) => [keyOf(r), r]))
  for (const row of there) if (!wanted.has(keyOf(row))) await c.strike('stepSeries', row.id)
  const known = new Map(there.map((r) => [keyOf(r), r]))
  for (const row of rows) {
    const old = known.get(keyOf(row))
    if (!old) await c.insert('stepSeries', { unitId, step, ...row })
    else if (old.position !== row.position || !sameJson(old.data as Json, row.data as Json))
      await c.update('stepSeries', old.id, null, { position: row.position, data: row.data })
  }
}

const encoder = new TextEncoder()

async function writeTexts(c: Change, unitId: string, step: StepId, texts: Record<string, string>): Promise<void> {
  if (kinds[step].texts.length === 0) return
  const { stepText } = schema
  const there = await c.live('stepText', and(eq(stepText.unitId, unitId), eq(stepText.step, step)))
  for (const [field, text] of Object.entries(texts)) {
    const old = there.find((t) => t.field === field)
    if (text === '') {
      if (old) await c.strike('stepText', old.id)
      continue
    }
    const bytes = encoder.encode(text)
    const sha256 = sha256Of(bytes)
    if (old?.sha256 === sha256) continue
    await keepBlob(c.tx, bytes, { sha256 })
    if (old) await c.update('stepText', old.id, null, { sha256 })
    else await c.insert('stepText', { unitId, step, field, sha256 })
  }
}

/** Stores a whole record and returns its new version. */
export async function writeRecord<S extends StepId>(
  c: Change,
  unitId: string,
  step: S,
  record: StepData[S],
): Promise<number> {
  const { stepRecord } = schema
  const [row] = await c.live('stepRecord', and(eq(stepRecord.unitId, unitId), eq(stepRecord.step, step)))
  const parts = takeApart(kinds[step], record as Stored)
  const stored = { data: parts.data, shape: newestShape(step), updatedAt: c.now }
  const saved = row
    ? await c.update('stepRecord', row.id, null, stored)
    : await c.insert('stepRecord', { unitId, step, ...stored })
  await writeSeries(c, unitId, step, parts.rows)
  await writeTexts(c, unitId, step, parts.texts)
  return saved.version
}

/** Marks a step done or open again, making its record of what is known when nobody has entered anything yet. */
export async function markDone(
  c: Change,
  on: Bundled,
  step: StepId,
  seen: number | null,
  done: DoneMark | null,
): Promise<void> {
  const held = heldRecord(on, step)
  if (seen !== null) refuseStale(held, seen)
  if (held.version === null) await writeRecord(c, on.unit.id, step, held.data)
  const { stepRecord } = schema
  const [row] = await c.live('stepRecord', and(eq(stepRecord.unitId, on.unit.id), eq(stepRecord.step, step)))
  if (row) await c.update('stepRecord', row.id, null, { done })
}
