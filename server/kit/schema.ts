import { sql } from 'drizzle-orm'
import { jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core'
import { changeable } from '../db/columns'

/** Adapters, supplies, reference meters, loads: facts as data, by kind. */
export const kit = pgTable('kit', {
  ...changeable(),
  kind: text('kind').notNull(),
  name: text('name').notNull(),
  data: jsonb('data').notNull(),
})

/** A firmware as editable data. */
export const profile = pgTable('profile', {
  ...changeable(),
  name: text('name').notNull(),
  data: jsonb('data').notNull(),
})

/** Finds of a printed marking that no unit of this workshop recorded: of before, or of friends. */
export const marking = pgTable(
  'marking',
  {
    ...changeable(),
    key: text('key').notNull(),
    text: text('text').notNull(),
    counts: jsonb('counts').notNull(),
  },
  (t) => [uniqueIndex('marking_key').on(t.key).where(sql`${t.struckAt} is null`)],
)

/** What is set once for the whole place: its name in topics, chances before any evidence. */
export const setting = pgTable(
  'setting',
  {
    ...changeable(),
    key: text('key').notNull(),
    value: jsonb('value').notNull(),
  },
  (t) => [uniqueIndex('setting_key').on(t.key).where(sql`${t.struckAt} is null`)],
)
