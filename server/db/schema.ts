import { sql } from 'drizzle-orm'
import { bigint, bigserial, boolean, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { at } from './columns'

export * from '../attempts/schema'
export * from '../boards/schema'
export * from '../files/schema'
export * from '../kit/schema'
export * from '../live/schema'
export * from '../meters/schema'
export * from '../network/schema'
export * from '../practice/schema'
export * from '../secrets/schema'
export * from '../units/schema'
export * from '../words/schema'

/** What happened. Append-only: typing in one record for ten minutes is one event that grows, and an undone one is marked. */
export const event = pgTable(
  'event',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: at('at').notNull().defaultNow(),
    /** When it was last added to. */
    until: at('until').notNull().defaultNow(),
    by: text('by').notNull(),
    kind: text('kind').notNull(),
    unitId: uuid('unit_id'),
    boardId: uuid('board_id'),
    step: text('step'),
    sentence: text('sentence').notNull(),
    /** It has rows that undo can take back. */
    undoable: boolean('undoable').notNull().default(false),
    undoneAt: at('undone_at'),
    /** Written by an older version: whole copies of rows as they were before. Turned into event rows once. */
    changes: jsonb('changes'),
  },
  (t) => [
    index('event_unit').on(t.unitId, t.id),
    index('event_board').on(t.boardId, t.id),
    index('event_undo').on(t.until, t.id).where(sql`${t.undoable} and ${t.undoneAt} is null`),
    index('event_undo_unit').on(t.unitId, t.id).where(sql`${t.undoable} and ${t.undoneAt} is null`),
    index('event_old').on(t.id).where(sql`${t.changes} is not null`),
  ],
)

/** What an event did to a row, as a patch: undo reads it backwards. */
export const eventRow = pgTable(
  'event_row',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    eventId: bigint('event_id', { mode: 'number' })
      .notNull()
      .references(() => event.id),
    table: text('table').notNull(),
    rowId: uuid('row_id').notNull(),
    made: boolean('made').notNull(),
    patch: jsonb('patch').notNull(),
  },
  (t) => [index('event_row_event').on(t.eventId), index('event_row_row').on(t.rowId, t.eventId)],
)

/** A change of something shared that has not reached every unit's state yet. */
export const ripple = pgTable('ripple', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  kind: text('kind').notNull(),
  ref: text('ref').notNull(),
  /** Units up to this number are done. */
  reached: bigint('reached', { mode: 'number' }).notNull().default(0),
  since: at('since').notNull().defaultNow(),
})

/**
 * Under which token lists of thousands stand whose rows change seldom: one row. Triggers of the migration that made it give a list another
 * token in the transaction that changes what is read of it, whoever does that.
 */
export const listToken = pgTable('list_token', {
  id: integer('id').primaryKey(),
  addresses: uuid('addresses').notNull(),
  updates: uuid('updates').notNull(),
})

/** The last tokens that each list had, and what changed under each; written by the same triggers. */
export const listPast = pgTable('list_past', {
  /** Later is more: whoever writes waits for the row of the tokens. */
  n: bigserial('n', { mode: 'number' }).primaryKey(),
  list: text('list').notNull(),
  token: uuid('token').notNull(),
  /** Units whose rows changed, some perhaps twice; null: too many to name. */
  units: uuid('units').array(),
})
