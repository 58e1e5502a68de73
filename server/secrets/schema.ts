import { boolean, index, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { at, bytea, changeable } from '../db/columns'
import { unit } from '../units/schema'

export const secret = pgTable(
  'secret',
  {
    ...changeable(),
    unitId: uuid('unit_id').references(() => unit.id),
    name: text('name').notNull(),
    keptIn: text('kept_in').notNull().default(''),
    nonce: bytea('nonce').notNull(),
    sealed: bytea('sealed').notNull(),
    /** Sealed with the id of this row: it opens in no other. */
    bound: boolean('bound').notNull().default(false),
    /** Mark of the key it was sealed with; empty of rows from before marks were kept. */
    sealedWith: text('sealed_with').notNull().default(''),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [index('secret_unit').on(t.unitId)],
)
