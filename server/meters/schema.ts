import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { at, changeable } from '../db/columns'
import { unit } from '../units/schema'

export const calibration = pgTable(
  'calibration',
  {
    ...changeable(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    input: jsonb('input').notNull(),
    result: jsonb('result').notNull(),
    firmware: text('firmware').notNull().default(''),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('calibration_unit').on(t.unitId, t.at)],
)
