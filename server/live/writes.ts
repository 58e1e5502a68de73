import type { Drained } from '@fresh-coat/core/live/listener'
import type { LiveState } from '@fresh-coat/core/live/standing'
import { sql } from 'drizzle-orm'
import type { Db, Tx } from '../db/client'

/** What the listener writes: in batches, each of them once. */

/** Pages that look hear which units changed, by their numbers. */
export const liveChannel = 'fresh_coat_live'
export const wishChannel = 'fresh_coat_wish'
const numbersANotice = 800
const iso = (ms: number | null): string | null => (ms === null ? null : new Date(ms).toISOString())

export interface LinkState {
  state: 'off' | 'connecting' | 'connected' | 'refused'
  broker: string
  message: string
  since: number
  counts: Record<string, number>
  refused: unknown
}

const linkId = 1

async function writeUnits(tx: Tx, { units }: Drained): Promise<void> {
  if (units.length === 0) return
  const rows = units.map(({ id, state, standing }) => ({
    unit_id: id,
    presence: standing.presence,
    flapping: standing.flapping,
    stale_at: iso(standing.staleAt),
    usual_s: standing.usualS,
    state,
  }))
  await tx.execute(sql`insert into live_unit (unit_id, presence, flapping, stale_at, usual_s, state, updated_at)
    select r.unit_id, r.presence, r.flapping, r.stale_at, r.usual_s, r.state, now()
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(unit_id uuid, presence text, flapping boolean, stale_at timestamptz,
      usual_s double precision, state jsonb) join unit u on u.id = r.unit_id
    on conflict (unit_id) do update set presence = excluded.presence, flapping = excluded.flapping, stale_at = excluded.stale_at,
      usual_s = excluded.usual_s, state = excluded.state, updated_at = excluded.updated_at`)
}

async function writeHappenings(tx: Tx, { happenings }: Drained): Promise<void> {
  if (happenings.length === 0) return
  const rows = happenings.map(({ unit, at, kind, ...data }) => ({ unit_id: unit, at: iso(at), kind, data }))
  await tx.execute(sql`insert into live_happening (unit_id, at, kind, data)
    select r.unit_id, r.at, r.kind, r.data from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
      as r(unit_id uuid, at timestamptz, kind text, data jsonb) join unit u on u.id = r.unit_id order by r.at`)
}

async function writeHours(tx: Tx, { hours }: Drained): Promise<void> {
  if (hours.length === 0) return
  const rows = hours.map((h) => ({ ...h, hour: iso(h.hour) }))
  // A row that was put in has no xmax: an hour that is new counts once for its day.
  await tx.execute(sql`with put as (insert into live_hour (unit_id, hour, messages, readings, sum_w, most_w, first_kwh, last_kwh)
    select r.unit, r.hour, r.messages, r.readings, r."sumW", r."mostW", r."firstKWh", r."lastKWh"
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(unit uuid, hour timestamptz, messages int, readings int,
      "sumW" double precision, "mostW" double precision, "firstKWh" double precision, "lastKWh" double precision)
    join unit u on u.id = r.unit
    on conflict (unit_id, hour) do update set messages = live_hour.messages + excluded.messages,
      readings = live_hour.readings + excluded.readings, sum_w = live_hour.sum_w + excluded.sum_w,
      most_w = greatest(live_hour.most_w, excluded.most_w), first_kwh = coalesce(live_hour.first_kwh, excluded.first_kwh),
      last_kwh = coalesce(excluded.last_kwh, live_hour.last_kwh)
    returning unit_id, hour, xmax = 0 as fresh)
    insert into live_day (unit_id, day, hours)
    select unit_id, (hour at time zone 'UTC')::date, count(*) from put where fresh group by 1, 2
    on conflict (unit_id, day) do update set hours = live_day.hours + excluded.hours`)
}

async function writeSenders(tx: Tx, { senders }: Drained): Promise<void> {
  if (senders.length === 0) return
  const rows = senders.map((s) => ({ ...s, at: iso(s.at) }))
  await tx.execute(sql`insert into live_sender (prefix, first_at, last_at, messages, sample)
    select r.prefix, r.at, r.at, r.messages, r.sample from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
      as r(prefix text, at timestamptz, messages bigint, sample text)
    on conflict (prefix) do update set last_at = excluded.last_at, messages = live_sender.messages + excluded.messages,
      sample = excluded.sample`)
}

async function tellPages(tx: Tx, ids: readonly string[]): Promise<void> {
  const found = await tx.execute(
    sql`select number from unit where id in (select x::uuid from jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb) x)`,
  )
  const numbers = (found.rows as { number: number }[]).map((r) => r.number)
  for (let i = 0; i < Math.max(1, numbers.length); i += numbersANotice)
    await tx.execute(sql`select pg_notify(${liveChannel}, ${JSON.stringify(numbers.slice(i, i + numbersANotice))})`)
}

/**
 * Writes what was drained and how the listener is, in one transaction. A batch whose number is not above the last one that was
 * written was written already, when nobody heard of it: it changes nothing.
 * @returns false for a batch that stood there before
 */
export async function writeBatch(db: Db, batch: number, drained: Drained, link: LinkState): Promise<boolean> {
  return db.transaction(async (tx) => {
    const dropped = JSON.stringify(drained.dropped)
    const taken =
      await tx.execute(sql`insert into live_link (id, state, broker, message, since, beat_at, counts, refused, dropped, batch)
      values (${linkId}, ${link.state}, ${link.broker}, ${link.message}, ${iso(link.since)}, now(), ${JSON.stringify(link.counts)}::jsonb,
        ${link.refused === null ? null : JSON.stringify(link.refused)}::jsonb, ${dropped}::jsonb, ${batch})
      on conflict (id) do update set state = excluded.state, broker = excluded.broker, message = excluded.message,
        since = excluded.since, beat_at = excluded.beat_at, counts = excluded.counts, refused = excluded.refused, batch = excluded.batch,
        dropped = (select coalesce(jsonb_object_agg(k, v), '{}') from (select k, sum(n) as v from (
          select key as k, value::numeric as n from jsonb_each_text(live_link.dropped)
          union all select key, value::numeric from jsonb_each_text(excluded.dropped)) a group by k) b)
      where live_link.batch < excluded.batch returning id`)
    if (taken.rows.length === 0) return false
    await writeUnits(tx, drained)
    await writeHappenings(tx, drained)
    await writeHours(tx, drained)
    await writeSenders(tx, drained)
    await tellPages(
      tx,
      drained.units.map((u) => u.id),
    )
    return true
  })
}

/** The number of the last batch that was written; 0 where none was. */
export async function lastBatch(db: Db): Promise<number> {
  const found = await db.execute(sql`select batch from live_link where id = ${linkId}`)
  return Number((found.rows[0] as { batch?: unknown } | undefined)?.batch ?? 0)
}

/** Happenings are kept for so long; hours stay. What is counted of both counts no hour of before. */
export const happeningDays = 90
export const forgetOld = (db: Db): Promise<unknown> =>
  db.execute(sql`delete from live_happening where at < now() - make_interval(days => ${happeningDays})`)

/** What was known of each unit when the listener ended. */
export async function knownStates(db: Db): Promise<Map<string, LiveState>> {
  const found = await db.execute(sql`select unit_id, state from live_unit`)
  return new Map((found.rows as { unit_id: string; state: LiveState }[]).map((r) => [r.unit_id, r.state]))
}
