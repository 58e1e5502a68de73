import { sql } from 'drizzle-orm'
import type { Db } from '../db/client'
import { liveChannel } from './writes'

/** Presses that are to reach units, as the listener works through them. */

export interface WaitingWish {
  id: string
  unitId: string
  channel: string
  value: boolean
  madeAt: number
}

export async function waitingWishes(db: Db): Promise<WaitingWish[]> {
  const found = await db.execute(
    sql`select id, unit_id, channel, value, made_at from live_wish where state = 'waiting' order by made_at limit 100`,
  )
  type Row = { id: string; unit_id: string; channel: string; value: boolean; made_at: string }
  return (found.rows as unknown as Row[]).map((r) => ({
    id: r.id,
    unitId: r.unit_id,
    channel: r.channel,
    value: r.value,
    madeAt: Date.parse(r.made_at),
  }))
}

const tell = (unitId: string) =>
  sql`select pg_notify(${liveChannel}, (select '[' || number || ']' from unit where id = ${unitId}))`

export async function sentWish(db: Db, id: string, unitId: string): Promise<void> {
  await db.execute(sql`update live_wish set state = 'sent', sent_at = now() where id = ${id}`)
  await db.execute(tell(unitId))
}

/** @param at when the answer came, ms; null where none did */
export async function settleWish(
  db: Db,
  id: string,
  unitId: string,
  state: 'answered' | 'silent' | 'late' | 'failed',
  at: number | null,
  note = '',
): Promise<void> {
  await db.execute(
    sql`update live_wish set state = ${state}, answered_at = ${at === null ? null : new Date(at).toISOString()}::timestamptz,
        note = ${note} where id = ${id} and state in ('waiting', 'sent')`,
  )
  await db.execute(tell(unitId))
}
