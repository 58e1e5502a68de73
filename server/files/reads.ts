import type { Run } from '@fresh-coat/core/dump/sectors'
import { readBuild } from '@fresh-coat/core/flash/own-build'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { and, desc, eq, inArray, isNull, type SQL, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'

type FileRow = typeof schema.file.$inferSelect

/** What any inspection holds, so that one of an older version is read too: what it did not look for, it did not find. */
const nothingFound = {
  kind: 'unknown',
  family: null,
  chipId: null,
  trailingBytes: null,
  images: [],
  partitions: null,
  gzip: null,
  findings: [],
}

export function readInspection(stored: unknown): object {
  const found = typeof stored === 'object' && stored !== null ? stored : {}
  const whole = { ...nothingFound, ...found }
  return {
    ...whole,
    images: Array.isArray(whole.images) ? whole.images : [],
    findings: Array.isArray(whole.findings) ? whole.findings : [],
  }
}

export const fileView = (f: FileRow & { bytes: number; held: boolean }): UnitFile => ({
  id: f.id,
  kind: f.kind as UnitFile['kind'],
  name: f.name,
  sha256: f.sha256,
  bytes: f.bytes,
  held: f.held,
  read: f.read,
  tag: f.tag,
  createdAt: f.createdAt.toISOString(),
  sourceId: f.sourceId,
  version: f.version,
  origin: f.origin,
  firmware: f.firmware,
  release: f.release,
  build: readBuild(f.build),
  inspection: f.inspection === null ? null : readInspection(f.inspection),
})

async function filesWhere(source: Source, where: SQL | undefined, limit: number): Promise<UnitFile[]> {
  const rows = await source
    .select({ file: schema.file, bytes: schema.blob.bytes, held: schema.blob.held })
    .from(schema.file)
    .innerJoin(schema.blob, eq(schema.file.sha256, schema.blob.sha256))
    .where(and(isNull(schema.file.struckAt), where))
    .orderBy(desc(schema.file.createdAt))
    .limit(limit)
  return rows.map((r) => fileView({ ...r.file, bytes: r.bytes, held: r.held }))
}

export const mostImages = 200

export async function fileById(source: Source, id: string): Promise<UnitFile | null> {
  const [found] = await filesWhere(source, eq(schema.file.id, id), 1)
  return found ?? null
}

/** Images that can be chosen, newest first. */
export const images = (source: Source, limit = mostImages): Promise<UnitFile[]> =>
  filesWhere(source, and(sql`${schema.file.kind} = 'image'`, isNull(schema.file.asideAt)), limit)

export const filesByIds = async (source: Source, ids: readonly string[]): Promise<UnitFile[]> =>
  ids.length === 0 ? [] : filesWhere(source, inArray(schema.file.id, [...ids]), ids.length)

export interface DumpRow {
  id: string
  unitId: string
  read: number | null
  sha256: string
  bytes: number
  createdAt: string
  secrets: number
  /** The map of the first read; empty where it is another one, or was never made. */
  runs: Run[]
}

/** Reads of the chips of some units, with the map of each first one. */
export async function dumpsOf(source: Source, unitIds: readonly string[]): Promise<DumpRow[]> {
  if (unitIds.length === 0) return []
  const { file, blob } = schema
  const rows = await source
    .select({
      id: file.id,
      unitId: file.unitId,
      read: file.read,
      sha256: file.sha256,
      bytes: blob.bytes,
      createdAt: file.createdAt,
      secrets: sql<number>`coalesce((${file.inspection} -> 'secrets' ->> 'count')::int, 0)`,
      runs: sql<Run[]>`case when ${file.read} = 1 then coalesce(${file.inspection} -> 'runs', '[]') else '[]' end`,
    })
    .from(file)
    .innerJoin(blob, eq(blob.sha256, file.sha256))
    .where(and(inArray(file.unitId, [...unitIds]), eq(file.kind, 'dump'), isNull(file.asideAt), isNull(file.struckAt)))
    .orderBy(desc(file.createdAt))
  return rows.map((r) => ({ ...r, unitId: r.unitId as string, createdAt: r.createdAt.toISOString() }))
}

/** The first read of every unit that has one, or of one unit, by number. */
export async function firstReads(
  source: Source,
  number: number | null,
): Promise<{ number: number; sha256: string; createdAt: string }[]> {
  const { file, unit } = schema
  const rows = await source
    .select({ number: unit.number, sha256: file.sha256, createdAt: file.createdAt })
    .from(file)
    .innerJoin(unit, eq(unit.id, file.unitId))
    .where(
      and(
        eq(file.kind, 'dump'),
        eq(file.read, 1),
        isNull(file.asideAt),
        isNull(file.struckAt),
        isNull(unit.struckAt),
        number === null ? undefined : eq(unit.number, number),
      ),
    )
    .orderBy(unit.number)
  return rows.map((r) => ({ ...r, createdAt: r.createdAt.toISOString() }))
}
