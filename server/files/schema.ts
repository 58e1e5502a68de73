import { sql } from 'drizzle-orm'
import { index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { board } from '../boards/schema'
import { at, changeable } from '../db/columns'
import { unit } from '../units/schema'
import { blob } from './blob-schema'

export { blob, blobChunk } from './blob-schema'

/** A name for a blob: the same bytes may have several. */
export const file = pgTable(
  'file',
  {
    ...changeable(),
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    kind: text('kind').notNull(),
    name: text('name').notNull(),
    unitId: uuid('unit_id').references(() => unit.id),
    boardId: uuid('board_id').references(() => board.id),
    read: integer('read'),
    tag: text('tag'),
    inspection: jsonb('inspection'),
    /** The file it was made from: a patched copy knows its original. */
    sourceId: uuid('source_id'),
    /** Where it came from, and which release of which firmware it is, in words. */
    origin: text('origin').notNull().default(''),
    firmware: text('firmware').notNull().default(''),
    release: text('release').notNull().default(''),
    /** Whose build it is and what is in it, as a person said. */
    build: jsonb('build'),
    /** Put aside: a newer read took its place. Bytes are never thrown away. */
    asideAt: at('aside_at'),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [
    index('file_unit').on(t.unitId, t.kind),
    index('file_sha256').on(t.sha256, t.kind),
    index('file_kind').on(t.kind, t.createdAt).where(sql`${t.asideAt} is null and ${t.struckAt} is null`),
    index('file_board').on(t.boardId, t.kind),
    index('file_name').using('gin', sql`lower(${t.name}) gin_trgm_ops`),
  ],
)
