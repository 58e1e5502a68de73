import { madeAlike, readBuild } from '@fresh-coat/core/flash/own-build'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { and, asc, desc, eq, inArray, isNotNull, isNull, ne, sql } from 'drizzle-orm'
import { boardName } from '../boards/reads'
import type { Source } from '../db/client'
import * as schema from '../db/schema'
import { together } from '../db/together'
import { type Profile, profiles } from '../kit/reads'
import { fileById } from './reads'

/** One file with whose it is, where it was written, and what it can be compared with. */
export interface FileDossier {
  file: UnitFile
  owner: { number: number; name: string } | null
  source: { id: string } | null
  /** Numbers of units it was written to. */
  users: number[]
  boards: { id: string; name: string }[]
  profiles: Profile[]
  others: { id: string; name: string; bytes: number; unit: number | null; read: number | null }[]
  /** A file that was made the same way by what is said of it, and is another one. */
  madeAlike: string | null
}

const { file, unit, board, blob, attempt } = schema
const mostUsers = 60
const mostOthers = 100

async function ownerOf(source: Source, fileId: string) {
  const [row] = await source
    .select({ id: unit.id, number: unit.number, name: unit.name, boardId: unit.boardId })
    .from(file)
    .innerJoin(unit, eq(unit.id, file.unitId))
    .where(and(eq(file.id, fileId), isNull(unit.struckAt)))
  return row ?? null
}

/** Units that a good write put it on. */
async function usersOf(source: Source, sha256: string) {
  return source
    .selectDistinct({ number: unit.number, boardId: unit.boardId })
    .from(attempt)
    .innerJoin(unit, eq(unit.id, attempt.unitId))
    .where(
      and(
        sql`${attempt.data} ->> 'sha256' = ${sha256}`,
        sql`${attempt.data} ->> 'outcome' = 'done'`,
        sql`coalesce(${attempt.data} ->> 'action', 'write') = 'write'`,
        isNull(attempt.struckAt),
        isNull(unit.struckAt),
      ),
    )
    .orderBy(asc(unit.number))
    .limit(mostUsers)
}

/** Files of the same kind, newest first; of dumps those of the same board come first. */
async function othersOf(source: Source, of: UnitFile, boardId: string | null): Promise<FileDossier['others']> {
  return source
    .select({ id: file.id, name: file.name, bytes: blob.bytes, unit: unit.number, read: file.read })
    .from(file)
    .innerJoin(blob, eq(blob.sha256, file.sha256))
    .leftJoin(unit, eq(unit.id, file.unitId))
    .where(and(eq(file.kind, of.kind), ne(file.id, of.id), isNull(file.asideAt), isNull(file.struckAt)))
    .orderBy(
      ...(boardId ? [desc(sql`${unit.boardId} is not distinct from ${boardId}::uuid`)] : []),
      desc(file.createdAt),
    )
    .limit(mostOthers)
}

/** Held against the newest files of the vault that say how they were made. */
async function alikeOf(source: Source, of: UnitFile): Promise<string | null> {
  if (!of.build) return null
  const rows = await source
    .select({ name: file.name, sha256: file.sha256, build: file.build })
    .from(file)
    .where(and(eq(file.kind, 'image'), isNotNull(file.build), isNull(file.asideAt), isNull(file.struckAt)))
    .orderBy(desc(file.createdAt))
    .limit(mostOthers)
  return madeAlike(
    of,
    rows.map((r) => ({ ...r, build: readBuild(r.build) })),
  )
}

export async function fileDossier(source: Source, id: string): Promise<FileDossier | null> {
  const found = await fileById(source, id)
  if (!found || found.kind === 'photo') return null
  const { owner, users, original, ...rest } = await together({
    owner: ownerOf(source, id),
    users: usersOf(source, found.sha256),
    original: found.sourceId ? fileById(source, found.sourceId) : null,
    profiles: profiles(source),
    madeAlike: alikeOf(source, found),
  })
  const boardIds = [...new Set([...users, ...(owner ? [owner] : [])].flatMap((u) => u.boardId ?? []))]
  const { boards, others } = await together({
    boards: boardIds.length > 0 ? source.select().from(board).where(inArray(board.id, boardIds)) : [],
    others: othersOf(source, found, owner?.boardId ?? null),
  })
  return {
    ...rest,
    file: found,
    owner: owner && { number: owner.number, name: owner.name },
    source: original && { id: original.id },
    users: users.map((u) => u.number),
    boards: boards.map((b) => ({ id: b.id, name: boardName(b) })),
    others,
  }
}
