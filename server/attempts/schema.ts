import { sql } from 'drizzle-orm'
import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { at, changeable } from '../db/columns'
import { unit } from '../units/schema'

/** What was tried over the wires. A row is never edited, only annotated; undone, it is struck and still shown. */
export const attempt = pgTable(
  'attempt',
  {
    ...changeable(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    /** The unit's board: a board's rates are read without its units. */
    boardId: uuid('board_id'),
    data: jsonb('data').notNull(),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    index('attempt_unit').on(t.unitId, t.at),
    index('attempt_board').on(t.boardId, t.at),
    index('attempt_written').on(sql`(${t.data} ->> 'sha256')`),
  ],
)

/** A search for what is wrong with a unit: answers so far, and the cause once it is found. */
export const trouble = pgTable(
  'trouble',
  {
    ...changeable(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    boardId: uuid('board_id'),
    step: text('step').notNull(),
    attemptId: uuid('attempt_id').references(() => attempt.id),
    symptom: text('symptom').notNull(),
    answers: jsonb('answers').notNull().default([]),
    cause: text('cause'),
    note: text('note').notNull().default(''),
    openedAt: at('opened_at').notNull().defaultNow(),
    closedAt: at('closed_at'),
  },
  (t) => [
    index('trouble_unit').on(t.unitId, t.openedAt),
    index('trouble_board').on(t.boardId, t.cause).where(sql`${t.cause} is not null`),
  ],
)

/**
 * The journal of a write that is not finished, one per unit: the browser that writes keeps it first, and this copy is for
 * another browser, or for the same one after its store was cleared. State of a chip, not something a person did: no event.
 */
export const writeJournal = pgTable('write_journal', {
  unitId: uuid('unit_id')
    .primaryKey()
    .references(() => unit.id),
  journal: jsonb('journal').notNull(),
  updatedAt: at('updated_at').notNull().defaultNow(),
})
