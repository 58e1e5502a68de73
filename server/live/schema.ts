import { sql } from 'drizzle-orm'
import {
  bigint,
  bigserial,
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from 'drizzle-orm/pg-core'
import { at } from '../db/columns'
import { unit } from '../units/schema'

/** What the listener heard. Nobody did it, so no event tells of it and undo does not reach it. */

/** How a unit stands on the air, and what its rhythm is worked out from. */
export const liveUnit = pgTable('live_unit', {
  unitId: uuid('unit_id')
    .primaryKey()
    .references(() => unit.id, { onDelete: 'cascade' }),
  presence: text('presence').notNull(),
  flapping: boolean('flapping').notNull(),
  staleAt: at('stale_at'),
  usualS: doublePrecision('usual_s'),
  state: jsonb('state').notNull(),
  /** What it said of the version it runs, and when, ms: read for thousands at once, without the whole of the state. */
  fw: text('fw').generatedAlwaysAs(
    sql`case when jsonb_typeof(state #> '{fields,fw,value}') = 'string' then state #>> '{fields,fw,value}' end`,
  ),
  fwAt: doublePrecision('fw_at').generatedAlwaysAs(sql`(state #>> '{fields,fw,at}')::double precision`),
  updatedAt: at('updated_at').notNull().defaultNow(),
})

export const liveHappening = pgTable(
  'live_happening',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id, { onDelete: 'cascade' }),
    at: at('at').notNull(),
    kind: text('kind').notNull(),
    data: jsonb('data').notNull(),
  },
  (t) => [index('live_happening_unit').on(t.unitId, t.at), index('live_happening_at').on(t.at)],
)

/** An hour of a unit: messages, watts, its counter at both ends. */
export const liveHour = pgTable(
  'live_hour',
  {
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id, { onDelete: 'cascade' }),
    hour: at('hour').notNull(),
    messages: integer('messages').notNull(),
    readings: integer('readings').notNull(),
    sumW: doublePrecision('sum_w').notNull(),
    mostW: doublePrecision('most_w').notNull(),
    firstKWh: doublePrecision('first_kwh'),
    lastKWh: doublePrecision('last_kwh'),
  },
  (t) => [primaryKey({ columns: [t.unitId, t.hour] })],
)

/** How many hours of a day, of UTC, a unit was heard in: counted as its hours come, since there are thousands of those. */
export const liveDay = pgTable(
  'live_day',
  {
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id, { onDelete: 'cascade' }),
    day: date('day', { mode: 'string' }).notNull(),
    hours: integer('hours').notNull(),
  },
  (t) => [primaryKey({ columns: [t.unitId, t.day] })],
)

/** Who speaks and is in no plan. */
export const liveSender = pgTable('live_sender', {
  prefix: text('prefix').primaryKey(),
  firstAt: at('first_at').notNull(),
  lastAt: at('last_at').notNull(),
  messages: bigint('messages', { mode: 'number' }).notNull(),
  sample: text('sample').notNull(),
})

/** A press on a page that is to reach a unit: sent once, soon or never. */
export const liveWish = pgTable(
  'live_wish',
  {
    id: uuid('id').primaryKey(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id, { onDelete: 'cascade' }),
    channel: text('channel').notNull(),
    value: boolean('value').notNull(),
    by: text('by').notNull(),
    madeAt: at('made_at').notNull(),
    /** waiting, sent, answered, silent (nothing came back), late (too old to be sent), failed */
    state: text('state').notNull().default('waiting'),
    sentAt: at('sent_at'),
    answeredAt: at('answered_at'),
    note: text('note').notNull().default(''),
  },
  (t) => [index('live_wish_unit').on(t.unitId, t.madeAt), index('live_wish_state').on(t.state)],
)

/** The listener itself: one row. */
export const liveLink = pgTable('live_link', {
  id: integer('id').primaryKey(),
  /** off, connecting, connected, refused */
  state: text('state').notNull(),
  broker: text('broker').notNull(),
  message: text('message').notNull(),
  since: at('since').notNull(),
  /** It was alive then. */
  beatAt: at('beat_at').notNull(),
  counts: jsonb('counts').notNull(),
  refused: jsonb('refused'),
  /** What found no place while the database was away, until somebody has seen it. */
  dropped: jsonb('dropped').notNull(),
  /** The last batch that was written: one that comes twice is written once. */
  batch: bigint('batch', { mode: 'number' }).notNull(),
})
