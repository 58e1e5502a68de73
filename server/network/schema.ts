import { boolean, index, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core'
import { at, changeable } from '../db/columns'
import { unit } from '../units/schema'

export const hub = pgTable('hub', {
  ...changeable(),
  name: text('name').notNull(),
  /** What it takes in, in its own words; null where nobody has written them down. */
  phrases: jsonb('phrases'),
})

export const hubTest = pgTable(
  'hub_test',
  {
    ...changeable(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    hubId: uuid('hub_id')
      .notNull()
      .references(() => hub.id),
    direction: text('direction').notNull(),
    /** The channel that was tried; null where the unit has one, or all were. */
    channel: integer('channel'),
    ok: boolean('ok').notNull(),
    seen: text('seen').notNull(),
    basis: jsonb('basis').notNull(),
    by: text('by').notNull(),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('hub_test_unit').on(t.unitId, t.at)],
)

/** Pairs of units whose spoken names people or assistants confuse, worked out after a name changed. */
export const nameClash = pgTable(
  'name_clash',
  {
    // No references: worked out anew at any time, and never in the way of a command that holds a unit.
    a: uuid('a').notNull(),
    b: uuid('b').notNull(),
    code: text('code').notNull(),
  },
  (t) => [primaryKey({ columns: [t.a, t.b, t.code] }), index('name_clash_b').on(t.b)],
)
