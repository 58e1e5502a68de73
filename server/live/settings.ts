import { Mapping } from '@fresh-coat/core/live/mapping'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Source } from '../db/client'
import * as schema from '../db/schema'
import { siteOf } from '../network/reads'
import { unseal } from '../secrets/seal'

/** Whether the app listens, and with what: nothing is contacted before a person has said so. */
export const listenerShape = z.object({
  on: z.boolean().default(false),
  /** The app’s own user at the broker; empty: the one that units use. */
  user: z.string().trim().max(120).default(''),
  /** Its password, kept as a secret of the place; null: none. */
  secretId: z.uuid().nullable().default(null),
  /** The certificate authority that the broker’s certificate comes from, as PEM; empty: those that the system trusts. */
  ca: z.string().max(20_000).default(''),
})
export type ListenerSetting = z.infer<typeof listenerShape>
export const listenerKey = 'listener'
export const noListener: ListenerSetting = listenerShape.parse({})

export async function listenerSetting(source: Source): Promise<ListenerSetting> {
  const { setting } = schema
  const [row] = await source
    .select({ value: setting.value })
    .from(setting)
    .where(and(eq(setting.key, listenerKey), isNull(setting.struckAt)))
  const read = listenerShape.safeParse(row?.value ?? {})
  return read.success ? read.data : noListener
}

export interface ListenTo {
  on: boolean
  host: string
  port: number
  tls: boolean
  user: string
  password: string | null
  ca: string
  base: string
  site: string
}

/** Everything the listener needs to begin; the password opened. */
export async function listenTo(source: Source): Promise<ListenTo> {
  const [site, own] = await Promise.all([siteOf(source), listenerSetting(source)])
  const { broker } = site.air
  let password: string | null = null
  if (own.secretId) {
    const [row] = await source
      .select()
      .from(schema.secret)
      .where(and(eq(schema.secret.id, own.secretId), isNull(schema.secret.struckAt)))
    password = row ? await unseal(source, row) : null
  }
  return {
    on: own.on && broker.host.trim() !== '',
    host: broker.host.trim(),
    port: broker.port ?? (broker.tls ? 8883 : 1883),
    tls: broker.tls,
    user: own.user || broker.user,
    password,
    ca: own.ca,
    base: site.base,
    site: site.slug,
  }
}

export interface UnitOnAir {
  id: string
  number: number
  topic: string
  firmware: string
}

/** Units that a topic is planned for. */
export async function unitsOnAir(source: Source): Promise<UnitOnAir[]> {
  const found = await source.execute(
    sql`select u.id, u.number, s.topic, s.firmware from unit u join unit_state s on s.unit_id = u.id
        where u.struck_at is null and s.topic <> '' and s.lane <> 'ended' order by u.number`,
  )
  return found.rows as unknown as UnitOnAir[]
}

/** What firmware says over the air where its tree is another than the site’s own, by its name. */
export async function mappingsOf(source: Source): Promise<{ firmware: string; mapping: Mapping }[]> {
  const { profile } = schema
  const rows = await source
    .select({ name: profile.name, data: profile.data })
    .from(profile)
    .where(isNull(profile.struckAt))
  return rows.flatMap((r) => {
    const read = Mapping.safeParse((r.data as { air?: unknown } | null)?.air)
    return read.success ? [{ firmware: r.name, mapping: read.data }] : []
  })
}
