import { customType, integer, timestamp, uuid } from 'drizzle-orm/pg-core'

/** Columns that tables of every noun share. */

/** bytea both ways as plain bytes. */
export const bytea = customType<{ data: Uint8Array; driverData: Buffer }>({
  dataType: () => 'bytea',
  toDriver: (value) => Buffer.from(value),
})

export const id = () => uuid('id').primaryKey().defaultRandom()
export const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** What a row that people change carries. */
export const changeable = () => ({
  id: id(),
  /** Grows with every change: a stale write is refused. */
  version: integer('version').notNull().default(1),
  /** Struck out: undone, or taken off a list. It stays for the ledger and is in nothing else. */
  struckAt: at('struck_at'),
})
