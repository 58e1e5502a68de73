import type { z } from 'zod'

/** JSON as it is stored: an object whose fields nobody has looked at yet. */
export type Stored = Record<string, unknown>

/** How the record of a step is written down, and how what older versions wrote is read. */
export interface RecordKind<S extends z.ZodType = z.ZodType> {
  schema: S
  /** From shape n to n + 1, for n = 1, 2, …: the newest shape is one more than there are upgrades. */
  upgrades: readonly ((old: Stored) => Stored)[]
  /** Fields that may hold hundreds of kilobytes: stored as blobs of their own, by hash. */
  texts: readonly string[]
  /** Lists stored as rows, one per entry: the field, and the key of an entry in it. */
  series: Readonly<Record<string, (entry: never, index: number) => string>>
}

export function recordKind<S extends z.ZodType>(
  schema: S,
  more: Partial<Pick<RecordKind, 'upgrades' | 'texts' | 'series'>> = {},
): RecordKind<S> {
  return { schema, upgrades: more.upgrades ?? [], texts: more.texts ?? [], series: more.series ?? {} }
}

export const shapeOf = (kind: RecordKind): number => kind.upgrades.length + 1

export type ReadRecord<T> =
  | { ok: true; data: T }
  /** Kept as it is and never written over: a person decides what becomes of it. */
  | { ok: false; where: string; what: string }

/** Reads what was stored at `shape`, upgrading it one shape after the other. */
export function readStored<S extends z.ZodType>(
  kind: RecordKind<S>,
  stored: { shape: number; data: unknown },
): ReadRecord<z.output<S>> {
  const newest = shapeOf(kind)
  if (!Number.isInteger(stored.shape) || stored.shape < 1 || stored.shape > newest)
    return { ok: false, where: '/', what: `It is of shape ${stored.shape}; this version knows 1 to ${newest}.` }
  if (typeof stored.data !== 'object' || stored.data === null || Array.isArray(stored.data))
    return { ok: false, where: '/', what: 'It is no object.' }
  let data = stored.data as Stored
  for (const upgrade of kind.upgrades.slice(stored.shape - 1)) data = upgrade(data)
  const parsed = kind.schema.safeParse(data)
  if (parsed.success) return { ok: true, data: parsed.data }
  const issue = parsed.error.issues[0]
  return { ok: false, where: `/${issue?.path.join('/') ?? ''}`, what: issue?.message ?? 'It does not fit.' }
}

export interface SeriesRow {
  series: string
  key: string
  /** Place in its list. */
  position: number
  data: unknown
}

export interface StoredParts {
  data: Stored
  rows: SeriesRow[]
  texts: Record<string, string>
}

/** A record in the pieces it is stored in: the document, rows of its lists, and its long texts. */
export function takeApart(kind: RecordKind, record: Stored): StoredParts {
  const data = { ...record }
  const rows: SeriesRow[] = []
  const texts: Record<string, string> = {}
  for (const [series, keyOf] of Object.entries(kind.series)) {
    const list = record[series]
    if (!Array.isArray(list)) continue
    const taken = new Set<string>()
    list.forEach((entry, position) => {
      let key = keyOf(entry as never, position)
      while (taken.has(key)) key += '+'
      taken.add(key)
      rows.push({ series, key, position, data: entry })
    })
    delete data[series]
  }
  for (const field of kind.texts) {
    const text = record[field]
    if (typeof text === 'string') texts[field] = text
    delete data[field]
  }
  return { data, rows, texts }
}

/** The record again; {@link takeApart} and this give back what went in. A list without a row is as the document says, else empty. */
export function putTogether(kind: RecordKind, parts: StoredParts): Stored {
  const record: Stored = { ...parts.data }
  for (const series of Object.keys(kind.series)) {
    const rows = parts.rows.filter((r) => r.series === series).sort((a, b) => a.position - b.position)
    if (rows.length > 0) record[series] = rows.map((r) => r.data)
    else record[series] ??= []
  }
  return { ...record, ...parts.texts }
}
