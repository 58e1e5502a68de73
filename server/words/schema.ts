import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { at, changeable } from '../db/columns'
import { blob } from '../files/schema'
import { unit } from '../units/schema'

/** What a tool printed, as it was pasted: the evidence of facts that were taken from it. */
export const toolWords = pgTable(
  'tool_words',
  {
    ...changeable(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    /** The step that was on screen. */
    step: text('step').notNull(),
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    /** As a person calls the tool, and the system it runs on; empty where nobody said. */
    tool: text('tool').notNull().default(''),
    system: text('system').notNull().default(''),
    /** Facts, outcome, and the row of an attempt, as they were read when it was kept. */
    reading: jsonb('reading').notNull(),
    /** Kinds of facts that were taken into records. */
    taken: jsonb('taken').notNull().default([]),
    by: text('by').notNull(),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('tool_words_unit').on(t.unitId, t.at)],
)
