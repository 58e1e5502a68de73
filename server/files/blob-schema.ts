import { boolean, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core'
import { at, bytea } from '../db/columns'

/** Bytes by content: kept once, in pieces. */
export const blob = pgTable('blob', {
  sha256: text('sha256').primaryKey(),
  bytes: integer('bytes').notNull(),
  /** False: the bytes stayed on the person's disk, only their hash and what was found in them are known here. */
  held: boolean('held').notNull().default(true),
  createdAt: at('created_at').notNull().defaultNow(),
})

export const blobChunk = pgTable(
  'blob_chunk',
  {
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    seq: integer('seq').notNull(),
    data: bytea('data').notNull(),
  },
  (t) => [primaryKey({ columns: [t.sha256, t.seq] })],
)
