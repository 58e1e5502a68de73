import { randomUUID } from 'node:crypto'
import { asksFirst } from '@fresh-coat/core/live/wish'
import { sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { id } from '../db/fields'
import * as schema from '../db/schema'
import { keepSetting } from '../kit/settings'
import { siteSecret } from '../secrets/commands'
import { viewOf } from '../units/one'
import { listenerKey, listenerSetting, listenerShape } from './settings'
import { wishChannel } from './writes'

/** The listener looks at its setting, or at what it is to send, as soon as the change stands. */
const tellListener = (c: Change, what: 'wish' | 'setting') =>
  c.tx.execute(sql`select pg_notify(${wishChannel}, ${what})`)

const switchUnit = command(
  z.object({
    unitId: id,
    channel: z
      .string()
      .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/)
      .max(63),
    on: z.boolean(),
    /** The person was told what hangs on it, and is sure. */
    sure: z.boolean().default(false),
  }),
  async (c, { unitId, channel, on, sure }) => {
    const view = await viewOf(c, unitId)
    if (!view.topic) throw new Refused('no-topic', 'It has no topic yet.', 'Give it a name first.')
    if (!(await listenerSetting(c.tx)).on)
      throw new Refused('not-listening', 'The app does not listen to a broker.', 'Switch it on under Network.')
    const why = asksFirst(view)
    if (why && !sure) throw new Refused('not-sure', why, 'Press again when you are sure.')
    const wishId = randomUUID()
    await c.tx
      .insert(schema.liveWish)
      .values({ id: wishId, unitId, channel, value: on, by: c.by, madeAt: c.now, state: 'waiting' })
    await c.tell({
      kind: 'switched',
      unitId,
      sentence: `${two(view.number)} channel ${channel} asked to go ${on ? 'on' : 'off'}`,
    })
    await tellListener(c, 'wish')
    return { id: wishId }
  },
)

const setListener = command(
  listenerShape.omit({ secretId: true }).extend({
    on: z.boolean(),
    /** A new password; empty takes it away, left out leaves it. */
    password: z.string().max(400).optional(),
  }),
  async (c, { password, ...input }) => {
    const before = await listenerSetting(c.tx)
    const secretId =
      password === undefined
        ? before.secretId
        : password === ''
          ? null
          : await siteSecret(c, 'Listener at the broker', password)
    await keepSetting(c, listenerKey, { ...input, secretId })
    await c.tell({
      kind: 'listener-set',
      sentence: input.on ? 'the app listens to the broker' : 'the app does not listen',
    })
    await tellListener(c, 'setting')
    return {}
  },
)

/** Somebody has seen what was lost while the database was away. */
const seenDropped = command(z.strictObject({}), async (c) => {
  await c.tx.execute(sql`update live_link set dropped = '{}'`)
  await c.tell({ kind: 'dropped-seen', sentence: 'what the listener had to drop was looked at' })
  return {}
})

/** A sender that is none of ours is not shown again until it speaks anew. */
const dropSender = command(z.object({ prefix: z.string().min(1).max(200) }), async (c, { prefix }) => {
  await c.tx.execute(sql`delete from live_sender where prefix = ${prefix}`)
  await c.tell({ kind: 'sender-dropped', sentence: `sender ${prefix} put away` })
  return {}
})

export const liveCommands = {
  'switch-unit': switchUnit,
  'set-listener': setListener,
  'seen-dropped': seenDropped,
  'drop-sender': dropSender,
}
