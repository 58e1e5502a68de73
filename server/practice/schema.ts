import { index, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core'
import { at, id } from '../db/columns'

/** Practice is kept apart: no unit, no event, no statistic of real work reads this. */
export const practice = pgTable(
  'practice',
  {
    id: id(),
    kind: text('kind').notNull(),
    family: text('family').notNull(),
    score: integer('score').notNull(),
    data: jsonb('data').notNull(),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('practice_at').on(t.at)],
)
