import type { Ended } from '@fresh-coat/core/unit/ended'
import { sql } from 'drizzle-orm'
import {
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  real,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import { board } from '../boards/schema'
import { at, changeable, id } from '../db/columns'
import { blob } from '../files/blob-schema'

export const unit = pgTable(
  'unit',
  {
    ...changeable(),
    number: integer('number').notNull(),
    name: text('name').notNull(),
    place: text('place').notNull().default(''),
    boardId: uuid('board_id').references(() => board.id),
    inHand: boolean('in_hand').notNull().default(false),
    inService: boolean('in_service').notNull().default(false),
    /** How, when and why its way ended; null while it is made or serves. */
    ended: jsonb('ended').$type<Ended>(),
    createdAt: at('created_at').notNull().defaultNow(),
    /** Its level in topics, unique in the site. Once it serves, no other unit changes it. */
    slug: text('slug').notNull().default(''),
    /** What its name or its pin alone would give: units that share it get their numbers. */
    ownSlug: text('own_slug').notNull().default(''),
    pinned: boolean('pinned').notNull().default(false),
    /** Its name as a voice assistant hears it. */
    spoken: text('spoken').notNull().default(''),
  },
  (t) => [
    uniqueIndex('unit_number').on(t.number).where(sql`${t.struckAt} is null`),
    uniqueIndex('unit_slug').on(t.slug).where(sql`${t.struckAt} is null and ${t.slug} <> ''`),
    uniqueIndex('unit_in_hand').on(t.inHand).where(sql`${t.inHand} and ${t.struckAt} is null`),
    index('unit_own_slug').on(t.ownSlug).where(sql`${t.struckAt} is null`),
    index('unit_board').on(t.boardId, t.number).where(sql`${t.struckAt} is null`),
    index('unit_place').on(t.place, t.number),
    // Those that share their topic with another one: few of many.
    index('unit_slug_taken')
      .on(t.ownSlug)
      .where(sql`${t.struckAt} is null and ${t.ownSlug} <> '' and ${t.slug} <> ${t.ownSlug}`),
    index('unit_ended').on(t.id).where(sql`${t.ended} is not null`),
  ],
)

const unitId = () =>
  uuid('unit_id')
    .notNull()
    .references(() => unit.id)

/** The document of a step's record; its lists and long texts have rows of their own. */
export const stepRecord = pgTable(
  'step_record',
  {
    ...changeable(),
    unitId: unitId(),
    step: text('step').notNull(),
    /** Which form the data has: core upgrades it from any that was ever released. */
    shape: integer('shape').notNull().default(1),
    data: jsonb('data').notNull(),
    done: jsonb('done'),
    updatedAt: at('updated_at').notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex('step_record_one').on(t.unitId, t.step).where(sql`${t.struckAt} is null`),
    // The units of one lot, as core's lotKey writes it.
    index('step_record_lot')
      .on(sql`lower(btrim(${t.data} ->> 'lot'))`)
      .where(sql`${t.step} = 'arrive' and ${t.struckAt} is null and coalesce(${t.data} ->> 'lot', '') <> ''`),
    // The units that name one module.
    index('step_record_module')
      .on(sql`(${t.data} ->> 'moduleId')`)
      .where(sql`${t.step} = 'pads' and ${t.struckAt} is null and ${t.data} ->> 'moduleId' is not null`),
  ],
)

/** One entry of a list in a record: a pad's readings, a meter point, what a unit ran. */
export const stepSeries = pgTable(
  'step_series',
  {
    ...changeable(),
    unitId: unitId(),
    step: text('step').notNull(),
    series: text('series').notNull(),
    key: text('key').notNull(),
    position: integer('position').notNull(),
    data: jsonb('data').notNull(),
  },
  (t) => [uniqueIndex('step_series_one').on(t.unitId, t.step, t.series, t.key).where(sql`${t.struckAt} is null`)],
)

/** A long text of a record, kept as a blob: a log saved again costs a hash, not a copy. */
export const stepText = pgTable(
  'step_text',
  {
    ...changeable(),
    unitId: unitId(),
    step: text('step').notNull(),
    field: text('field').notNull(),
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
  },
  (t) => [uniqueIndex('step_text_one').on(t.unitId, t.step, t.field).where(sql`${t.struckAt} is null`)],
)

/** A record that this version cannot read, put aside when a person began it anew. */
export const asideRecord = pgTable(
  'aside_record',
  {
    id: id(),
    unitId: unitId(),
    step: text('step').notNull(),
    shape: integer('shape').notNull(),
    data: jsonb('data').notNull(),
    why: text('why').notNull(),
    by: text('by').notNull(),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('aside_record_unit').on(t.unitId)],
)

export const gate = pgTable(
  'gate',
  {
    ...changeable(),
    unitId: unitId(),
    gate: text('gate').notNull(),
    /** Local day of the confirmation. */
    day: date('day', { mode: 'string' }).notNull(),
    measured: text('measured').notNull().default(''),
    by: text('by').notNull(),
    at: at('at').notNull().defaultNow(),
    clearedAt: at('cleared_at'),
    /** An attempt, the opposite gate, or a step that was reopened; null of rows from before it was kept. */
    clearedBy: text('cleared_by'),
  },
  (t) => [
    index('gate_unit').on(t.unitId, t.gate, t.at),
    uniqueIndex('gate_open').on(t.unitId, t.gate).where(sql`${t.clearedAt} is null and ${t.struckAt} is null`),
    // Serial and mains are never together: two opposite confirmations cannot stand beside each other.
    uniqueIndex('gate_one_state')
      .on(t.unitId)
      .where(sql`${t.gate} in ('mains-off', 'case-closed') and ${t.clearedAt} is null and ${t.struckAt} is null`),
  ],
)

/**
 * What lists, find, calendar and statistics need of a unit, worked out by core in the transaction that changed it. Nothing
 * here is a source: it can be thrown away and rebuilt.
 */
export const unitState = pgTable(
  'unit_state',
  {
    unitId: unitId().primaryKey(),
    number: integer('number').notNull(),
    boardId: uuid('board_id'),
    next: text('next').notNull(),
    lane: text('lane').notNull(),
    inService: boolean('in_service').notNull(),
    coats: jsonb('coats').notNull(),
    waiting: jsonb('waiting').notNull(),
    /** 1 something is wrong, 2 something is stale or due; null where nothing waits. */
    waitRank: integer('wait_rank'),
    troubles: integer('troubles').notNull(),
    /** The next day on which something falls due; and the first day on which this row no longer holds. */
    due: date('due', { mode: 'string' }),
    dueWhat: text('due_what').notNull(),
    holdsUntil: date('holds_until', { mode: 'string' }),
    address: text('address').notNull(),
    mac: text('mac').notNull(),
    apMac: text('ap_mac').notNull(),
    nameSuffix: text('name_suffix').notNull(),
    topic: text('topic').notNull(),
    firmware: text('firmware').notNull(),
    firmwareName: text('firmware_name').notNull().default(''),
    installed: text('installed').notNull().default(''),
    bridge: boolean('bridge').notNull().default(false),
    firmwareChosen: text('firmware_chosen').notNull(),
    family: text('family'),
    /** The family that Identify established; null while it has not, or while a variant is not split. */
    established: text('established'),
    printed: text('printed').notNull(),
    printedKey: text('printed_key').notNull(),
    backup: text('backup').notNull(),
    imageId: uuid('image_id'),
    adapterId: uuid('adapter_id'),
    metering: boolean('metering').notNull(),
    calibration: jsonb('calibration'),
    openMinutes: real('open_minutes'),
    hasMarks: boolean('has_marks').notNull(),
    search: text('search').notNull(),
  },
  (t) => [
    index('unit_state_number').on(t.number),
    // What is counted on every page of the bench is counted in here, without a look at the rows.
    index('unit_state_standing').on(t.inService, t.lane, t.waitRank),
    index('unit_state_lane').on(t.lane, t.inService, t.number),
    index('unit_state_waiting').on(t.waitRank, t.number).where(sql`${t.waitRank} is not null`),
    index('unit_state_due').on(t.due, t.number).where(sql`${t.due} is not null`),
    index('unit_state_holds').on(t.holdsUntil).where(sql`${t.holdsUntil} is not null`),
    index('unit_state_board').on(t.boardId, t.established),
    index('unit_state_printed').on(t.printedKey, t.number).where(sql`${t.printedKey} <> ''`),
    index('unit_state_image').on(t.imageId).where(sql`${t.imageId} is not null`),
    index('unit_state_adapter').on(t.adapterId).where(sql`${t.adapterId} is not null`),
    index('unit_state_firmware').on(t.firmwareChosen),
    // What an update needs of those that serve with a firmware is all in here.
    index('unit_state_runs')
      .on(t.firmwareName, t.number, t.unitId, t.installed, t.bridge)
      .where(sql`${t.inService} and ${t.firmwareName} <> ''`),
    // What the address plan asks of all who are in it: here in the order in which it gives.
    index('unit_state_planned')
      .on(t.number, t.unitId, t.mac, t.address)
      .where(sql`${t.lane} <> 'ended' and (${t.mac} <> '' or ${t.address} <> '')`),
    index('unit_state_address').on(t.number).where(sql`${t.address} <> ''`),
    index('unit_state_metering').on(sql`(${t.calibration} ->> 'due')`, t.number).where(sql`${t.metering}`),
    index('unit_state_backup').on(t.number).where(sql`${t.backup} not in ('none', 'skipped')`),
    index('unit_state_twins')
      .on(t.boardId, sql`(${t.backup} <> 'verified')`, t.number)
      .where(sql`${t.backup} not in ('none', 'skipped')`),
    index('unit_state_minutes').on(t.boardId, t.number).where(sql`${t.openMinutes} is not null`),
    index('unit_state_marks').on(t.boardId, t.number).where(sql`${t.hasMarks}`),
    index('unit_state_search').using('gin', sql`${t.search} gin_trgm_ops`),
  ],
)

/** Hands-on time of a unit while it is made, counted as its events come. */
export const unitPace = pgTable(
  'unit_pace',
  {
    unitId: unitId().primaryKey(),
    boardId: uuid('board_id'),
    begunAt: at('begun_at').notNull(),
    lastAt: at('last_at').notNull(),
    minutes: doublePrecision('minutes').notNull(),
    proven: boolean('proven').notNull().default(false),
  },
  (t) => [
    index('unit_pace_board').on(t.boardId, t.begunAt),
    index('unit_pace_proven').on(t.begunAt).where(sql`${t.proven}`),
  ],
)
