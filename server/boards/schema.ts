import { sql } from 'drizzle-orm'
import { boolean, index, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import { at, changeable } from '../db/columns'

export const board = pgTable(
  'board',
  {
    ...changeable(),
    maker: text('maker').notNull(),
    product: text('product').notNull(),
    revision: text('revision').notNull(),
    mains: boolean('mains').notNull().default(true),
    fixedWiring: boolean('fixed_wiring').notNull().default(false),
    hasMeter: boolean('has_meter').notNull().default(false),
    inPackageFlash: boolean('in_package_flash').notNull().default(false),
    note: text('note').notNull().default(''),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [uniqueIndex('board_name').on(t.maker, t.product, t.revision).where(sql`${t.struckAt} is null`)],
)

/** One fact of a board with the unit that taught it; the newest of a key counts. */
export const boardFact = pgTable(
  'board_fact',
  {
    ...changeable(),
    boardId: uuid('board_id')
      .notNull()
      .references(() => board.id),
    key: text('key').notNull(),
    value: jsonb('value').notNull(),
    unitId: uuid('unit_id'),
    step: text('step'),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('board_fact_newest').on(t.boardId, t.key, t.at).where(sql`${t.struckAt} is null`)],
)
