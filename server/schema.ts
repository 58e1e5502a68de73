import {
  bigserial,
  boolean,
  customType,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'

/** bytea both ways as plain bytes. */
const bytea = customType<{ data: Uint8Array; driverData: Buffer }>({
  dataType: () => 'bytea',
  toDriver: (value) => Buffer.from(value),
})

const id = () => uuid('id').primaryKey().defaultRandom()
const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })
/** Grows with every change: a stale write is refused, and undo checks it. */
const version = () => integer('version').notNull().default(1)

export const board = pgTable(
  'board',
  {
    id: id(),
    maker: text('maker').notNull(),
    product: text('product').notNull(),
    revision: text('revision').notNull(),
    mains: boolean('mains').notNull().default(true),
    fixedWiring: boolean('fixed_wiring').notNull().default(false),
    hasMeter: boolean('has_meter').notNull().default(false),
    inPackageFlash: boolean('in_package_flash').notNull().default(false),
    note: text('note').notNull().default(''),
    createdAt: at('created_at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [uniqueIndex('board_name').on(t.maker, t.product, t.revision)],
)

/** One fact of a board with the unit that taught it; the newest of a key counts. */
export const boardFact = pgTable(
  'board_fact',
  {
    id: id(),
    boardId: uuid('board_id')
      .notNull()
      .references(() => board.id),
    key: text('key').notNull(),
    value: jsonb('value').notNull(),
    unitId: uuid('unit_id'),
    step: text('step'),
    at: at('at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [index('board_fact_board').on(t.boardId)],
)

export const unit = pgTable(
  'unit',
  {
    id: id(),
    number: integer('number').notNull(),
    name: text('name').notNull(),
    place: text('place').notNull().default(''),
    boardId: uuid('board_id').references(() => board.id),
    inHand: boolean('in_hand').notNull().default(false),
    inService: boolean('in_service').notNull().default(false),
    createdAt: at('created_at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [uniqueIndex('unit_number').on(t.number)],
)

export const stepRecord = pgTable(
  'step_record',
  {
    id: id(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    step: text('step').notNull(),
    data: jsonb('data').notNull(),
    done: jsonb('done'),
    updatedAt: at('updated_at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [uniqueIndex('step_record_one').on(t.unitId, t.step)],
)

export const gate = pgTable(
  'gate',
  {
    id: id(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    gate: text('gate').notNull(),
    /** Local day of the confirmation. */
    day: date('day', { mode: 'string' }).notNull(),
    measured: text('measured').notNull().default(''),
    by: text('by').notNull(),
    at: at('at').notNull().defaultNow(),
    clearedAt: at('cleared_at'),
    version: version(),
  },
  (t) => [index('gate_unit').on(t.unitId)],
)

export const attempt = pgTable(
  'attempt',
  {
    id: id(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    data: jsonb('data').notNull(),
    at: at('at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [index('attempt_unit').on(t.unitId)],
)

/** A search for what is wrong with a unit: answers so far, and the cause once it is found. */
export const trouble = pgTable(
  'trouble',
  {
    id: id(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    step: text('step').notNull(),
    attemptId: uuid('attempt_id').references(() => attempt.id),
    symptom: text('symptom').notNull(),
    answers: jsonb('answers').notNull().default([]),
    cause: text('cause'),
    note: text('note').notNull().default(''),
    openedAt: at('opened_at').notNull().defaultNow(),
    closedAt: at('closed_at'),
    version: version(),
  },
  (t) => [index('trouble_unit').on(t.unitId)],
)

/** Finds of a printed marking that no unit of this workshop recorded: of before, or of friends. */
export const marking = pgTable(
  'marking',
  {
    id: id(),
    key: text('key').notNull(),
    text: text('text').notNull(),
    counts: jsonb('counts').notNull(),
    version: version(),
  },
  (t) => [uniqueIndex('marking_key').on(t.key)],
)

/** Practice is kept apart: no unit, no event, no statistic of real work reads this. */
export const practice = pgTable('practice', {
  id: id(),
  kind: text('kind').notNull(),
  family: text('family').notNull(),
  score: integer('score').notNull(),
  data: jsonb('data').notNull(),
  at: at('at').notNull().defaultNow(),
})

export const calibration = pgTable(
  'calibration',
  {
    id: id(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    input: jsonb('input').notNull(),
    result: jsonb('result').notNull(),
    firmware: text('firmware').notNull().default(''),
    at: at('at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [index('calibration_unit').on(t.unitId)],
)

export const hub = pgTable('hub', { id: id(), name: text('name').notNull(), version: version() })

export const hubTest = pgTable(
  'hub_test',
  {
    id: id(),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    hubId: uuid('hub_id')
      .notNull()
      .references(() => hub.id),
    direction: text('direction').notNull(),
    ok: boolean('ok').notNull(),
    seen: text('seen').notNull(),
    basis: jsonb('basis').notNull(),
    by: text('by').notNull(),
    at: at('at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [index('hub_test_unit').on(t.unitId)],
)

/** Adapters, supplies, reference meters, loads: facts as data, by kind. */
export const kit = pgTable('kit', {
  id: id(),
  kind: text('kind').notNull(),
  name: text('name').notNull(),
  data: jsonb('data').notNull(),
  version: version(),
})

/** A firmware as editable data. */
export const profile = pgTable('profile', {
  id: id(),
  name: text('name').notNull(),
  data: jsonb('data').notNull(),
  version: version(),
})

export const blob = pgTable('blob', {
  sha256: text('sha256').primaryKey(),
  bytes: integer('bytes').notNull(),
  /** False: the bytes stayed on the person's disk, only their hash and what was found in them are known here. */
  held: boolean('held').notNull().default(true),
  createdAt: at('created_at').notNull().defaultNow(),
})
export const blobChunk = pgTable(
  'blob_chunk',
  {
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    seq: integer('seq').notNull(),
    data: bytea('data').notNull(),
  },
  (t) => [primaryKey({ columns: [t.sha256, t.seq] })],
)

/** A name for a blob: the same bytes may have several. */
export const file = pgTable(
  'file',
  {
    id: id(),
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    kind: text('kind').notNull(),
    name: text('name').notNull(),
    unitId: uuid('unit_id').references(() => unit.id),
    boardId: uuid('board_id').references(() => board.id),
    read: integer('read'),
    tag: text('tag'),
    inspection: jsonb('inspection'),
    /** The file it was made from: a patched copy knows its original. */
    sourceId: uuid('source_id'),
    /** Where it came from, and which release of which firmware it is, in words. */
    origin: text('origin').notNull().default(''),
    firmware: text('firmware').notNull().default(''),
    release: text('release').notNull().default(''),
    /** Put aside: a newer read took its place, or undo took it back. Bytes are never thrown away. */
    asideAt: at('aside_at'),
    createdAt: at('created_at').notNull().defaultNow(),
    version: version(),
  },
  (t) => [index('file_unit').on(t.unitId)],
)

export const secret = pgTable('secret', {
  id: id(),
  unitId: uuid('unit_id').references(() => unit.id),
  name: text('name').notNull(),
  keptIn: text('kept_in').notNull().default(''),
  nonce: bytea('nonce').notNull(),
  sealed: bytea('sealed').notNull(),
  createdAt: at('created_at').notNull().defaultNow(),
  version: version(),
})

export const event = pgTable(
  'event',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: at('at').notNull().defaultNow(),
    by: text('by').notNull(),
    kind: text('kind').notNull(),
    unitId: uuid('unit_id'),
    boardId: uuid('board_id'),
    step: text('step'),
    sentence: text('sentence').notNull(),
    /** Rows before and after, so that the change can be undone. */
    changes: jsonb('changes').notNull().default([]),
    undoneAt: at('undone_at'),
  },
  (t) => [index('event_unit').on(t.unitId), index('event_at').on(t.at)],
)

export const setting = pgTable('setting', { key: text('key').primaryKey(), value: jsonb('value').notNull() })
