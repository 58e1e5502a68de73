import type {
  LinkRow,
  OnAirRow,
  ResponseTimes,
  StrangeSender,
  UnitOnAirPage,
  WishRow,
} from '@fresh-coat/core/live/on-air'
import type { Happening, LiveState, Presence } from '@fresh-coat/core/live/standing'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { listenerSetting } from './settings'

/** What pages show of the air. */

const ms = (value: unknown): number | null => (value === null || value === undefined ? null : Date.parse(String(value)))

interface StoredRow {
  unit_id: string
  number: number
  name: string
  place: string
  presence: Presence
  flapping: boolean
  stale_at: string | null
  usual_s: number | null
  state: LiveState
}

function rowOf(r: StoredRow): OnAirRow {
  const { fields, heardAt, restarts, skewS, beats, changes } = r.state
  return {
    unitId: r.unit_id,
    number: r.number,
    name: r.name,
    place: r.place,
    presence: r.presence,
    flapping: r.flapping,
    staleAt: ms(r.stale_at),
    usualS: r.usual_s,
    heardAt,
    fields,
    restarts,
    skewS,
    beats,
    changes,
  }
}

const columns = sql`select u.id as unit_id, u.number, u.name, u.place, l.presence, l.flapping, l.stale_at, l.usual_s, l.state
  from live_unit l join unit u on u.id = l.unit_id where u.struck_at is null and u.ended is null`

/** A page of those that were ever heard, by their numbers. */
export async function onAir(source: Source, after: number, limit: number): Promise<OnAirRow[]> {
  const found = await source.execute(sql`${columns} and u.number > ${after} order by u.number limit ${limit}`)
  return (found.rows as unknown as StoredRow[]).map(rowOf)
}

export async function onAirOf(source: Source, numbers: readonly number[]): Promise<OnAirRow[]> {
  if (numbers.length === 0) return []
  const found = await source.execute(
    sql`${columns} and u.number in (select x::int from jsonb_array_elements_text(${JSON.stringify(numbers)}::jsonb) x)`,
  )
  return (found.rows as unknown as StoredRow[]).map(rowOf)
}

/** The listener as it wrote of itself last; null where none ever ran. */
export async function linkRow(source: Source): Promise<LinkRow | null> {
  const found = await source.execute(
    sql`select state, broker, message, since, beat_at, counts, refused, dropped from live_link where id = 1`,
  )
  const [r] = found.rows as unknown as (Omit<LinkRow, 'since' | 'beatAt'> & { since: string; beat_at: string })[]
  return r ? { ...r, since: Date.parse(r.since), beatAt: Date.parse(r.beat_at) } : null
}

const mostHeard = 2000
const macText = /\b[0-9a-f]{2}(?::[0-9a-f]{2}){5}\b/i
const ipText = /\b(?:\d{1,3}\.){3}\d{1,3}\b/

/** Addresses that units, and senders that nobody planned, said of themselves. */
export async function heardAddresses(source: Source): Promise<{ mac: string; ip: string; name: string }[]> {
  const found = await source.execute(sql`select u.slug as name, s.mac, l.state -> 'fields' -> 'ip' ->> 'value' as ip
    from live_unit l join unit u on u.id = l.unit_id join unit_state s on s.unit_id = u.id
    where u.struck_at is null and l.state -> 'fields' -> 'ip' ->> 'value' is not null order by u.number limit ${mostHeard}`)
  const strange = (await senders(source)).flatMap(({ prefix, sample }) => {
    const ip = ipText.exec(sample)?.[0]
    return ip ? [{ mac: macText.exec(sample)?.[0] ?? '', ip, name: prefix.split('/').at(-1) ?? '' }] : []
  })
  return [...(found.rows as unknown as { mac: string; ip: string; name: string }[]), ...strange]
}

const mostSenders = 60

export async function senders(source: Source): Promise<StrangeSender[]> {
  const found = await source.execute(
    sql`select prefix, first_at, last_at, messages, sample from live_sender order by last_at desc limit ${mostSenders}`,
  )
  type Row = { prefix: string; first_at: string; last_at: string; messages: number; sample: string }
  return (found.rows as unknown as Row[]).map((r) => ({
    prefix: r.prefix,
    firstAt: Date.parse(r.first_at),
    lastAt: Date.parse(r.last_at),
    messages: Number(r.messages),
    sample: r.sample,
  }))
}

const mostHappenings = 40
const mostTimed = 20
const hoursShown = 24 * 30

/** All that is known of one unit on the air: now, what happened, its hours of a month, what was asked of it. */
export async function unitOnAir(source: Source, number: number): Promise<UnitOnAirPage | null> {
  const unit = await source.execute(sql`select id from unit where number = ${number} and struck_at is null`)
  const unitId = (unit.rows[0] as { id: string } | undefined)?.id
  if (!unitId) return null
  const [row] = await onAirOf(source, [number])
  const happened = await source.execute(
    sql`select at, kind, data from live_happening where unit_id = ${unitId} order by at desc, id desc limit ${mostHappenings}`,
  )
  const hours = await source.execute(sql`select hour, messages, readings, sum_w, most_w from live_hour
    where unit_id = ${unitId} and hour > now() - make_interval(hours => ${hoursShown}) order by hour`)
  const wishes =
    await source.execute(sql`select id, channel, value, by, made_at, state, sent_at, answered_at, note from live_wish
    where unit_id = ${unitId} order by made_at desc limit 6`)
  const times = await source.execute(sql`select count(*)::int as n,
      percentile_cont(0.5) within group (order by ms) as "medianMs", max(ms) as "worstMs"
    from (select extract(epoch from answered_at - sent_at)::double precision * 1000 as ms from live_wish
      where unit_id = ${unitId} and state = 'answered' order by made_at desc limit ${mostTimed}) w`)
  const [response] = times.rows as unknown as ResponseTimes[]
  type H = { hour: string; messages: number; readings: number; sum_w: number; most_w: number }
  type E = { at: string; kind: Happening['kind']; data: object }
  type W = Pick<WishRow, 'id' | 'channel' | 'value' | 'by' | 'state' | 'note'> & {
    made_at: string
    sent_at: string | null
    answered_at: string | null
  }
  return {
    listening: (await listenerSetting(source)).on,
    row: row ?? null,
    response: response && response.n > 0 ? response : null,
    happenings: (happened.rows as unknown as E[]).map((e) => ({ ...e.data, at: Date.parse(e.at), kind: e.kind })),
    hours: (hours.rows as unknown as H[]).map((h) => ({
      hour: Date.parse(h.hour),
      messages: h.messages,
      meanW: h.readings > 0 ? h.sum_w / h.readings : null,
      mostW: h.most_w,
    })),
    wishes: (wishes.rows as unknown as W[]).map(({ made_at, sent_at, answered_at, ...w }) => ({
      ...w,
      madeAt: Date.parse(made_at),
      sentAt: ms(sent_at),
      answeredAt: ms(answered_at),
    })),
  }
}
