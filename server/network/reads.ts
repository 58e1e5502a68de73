import { Phrases } from '@fresh-coat/core/profile/phrases'
import { isSlug } from '@fresh-coat/core/topics/slug'
import { type Air, noAir, readAir } from '@fresh-coat/core/unit/air'
import { type Money, readMoney } from '@fresh-coat/core/unit/cost'
import { and, desc, eq, isNull, or, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'

export interface Site {
  name: string
  base: string
  slug: string
  /** Nominal voltage of the mains there. */
  mainsVolts: number
  money: Money
  /** What every unit is told of the air. */
  air: Air
}
const defaultSite: Site = {
  name: 'My place',
  base: 'home',
  slug: 'main',
  mainsVolts: 230,
  money: { currency: '', hourWorth: null, prices: [] },
  air: noAir,
}

const isMains = (volts: unknown): volts is number => typeof volts === 'number' && volts >= 90 && volts <= 260

/** A stored site as it can be used; what cannot stand in a topic is not. */
export function readSite(value: unknown): Site {
  const site = value as Partial<Site> | undefined | null
  return site?.base && isSlug(site.base) && site.slug && isSlug(site.slug)
    ? {
        ...defaultSite,
        ...site,
        mainsVolts: isMains(site.mainsVolts) ? site.mainsVolts : defaultSite.mainsVolts,
        money: readMoney(site.money),
        air: readAir(site.air),
      }
    : defaultSite
}

export async function siteOf(source: Source): Promise<Site> {
  const { setting } = schema
  const [row] = await source
    .select()
    .from(setting)
    .where(and(eq(setting.key, 'site'), isNull(setting.struckAt)))
  return readSite(row?.value)
}

export interface Hub {
  id: string
  name: string
  version: number
  /** What it takes in, in its own words. */
  phrases: Phrases | null
}

export async function hubs(source: Source): Promise<Hub[]> {
  const { hub } = schema
  const rows = await source
    .select({ id: hub.id, name: hub.name, version: hub.version, phrases: hub.phrases })
    .from(hub)
    .where(isNull(hub.struckAt))
    .orderBy(hub.name)
  return rows.map((h) => {
    const read = Phrases.safeParse(h.phrases)
    return { ...h, phrases: read.success ? read.data : null }
  })
}

export interface NetworkRow {
  id: string
  number: number
  name: string
  topic: string
  address: string
  mac: string
  tested: string
}

/** A page of units as the network sees them. */
export async function networkPage(source: Source, after: number, limit: number): Promise<NetworkRow[]> {
  const found = await source.execute(
    sql`select u.id, u.number, u.name, s.topic, s.address, s.mac, t.tested
        from unit u join unit_state s on s.unit_id = u.id
        left join lateral (select to_char(t.at, 'YYYY-MM-DD') || ', ' || h.name as tested from hub_test t
          join hub h on h.id = t.hub_id where t.unit_id = u.id and t.struck_at is null order by t.at desc limit 1) t on true
        where u.number > ${after} and u.struck_at is null order by u.number limit ${limit}`,
  )
  return (found.rows as unknown as NetworkRow[]).map((r) => ({ ...r, tested: r.tested ?? '' }))
}

const mostPlaced = 500

/** Units with an address, in the order of their numbers. */
export async function addressed(
  source: Source,
): Promise<{ number: number; name: string; address: string; reserved: boolean }[]> {
  const found = await source.execute(
    sql`select s.number, u.name, s.address, coalesce((r.data ->> 'reserved')::boolean, false) as reserved
        from unit_state s join unit u on u.id = s.unit_id
        left join step_record r on r.unit_id = u.id and r.step = 'name' and r.struck_at is null
        where s.address <> '' and s.lane <> 'ended' order by s.number limit ${mostPlaced}`,
  )
  return found.rows as never
}

export interface NameClash {
  code: string
  a: { number: number; name: string }
  b: { number: number; name: string }
}
const mostClashes = 60

/** Pairs whose spoken names people confuse. */
export async function nameClashes(source: Source): Promise<NameClash[]> {
  const found = await source.execute(
    sql`select c.code, a.number as an, a.name as aname, b.number as bn, b.name as bname from name_clash c
        join unit a on a.id = c.a join unit b on b.id = c.b order by a.number, b.number, c.code limit ${mostClashes}`,
  )
  type Row = { code: string; an: number; aname: string; bn: number; bname: string }
  return (found.rows as unknown as Row[]).map((r) => ({
    code: r.code,
    a: { number: r.an, name: r.aname },
    b: { number: r.bn, name: r.bname },
  }))
}

/** Names that would give the same topic, with the numbers that share each. */
export async function slugClashes(source: Source): Promise<{ slug: string; numbers: number[] }[]> {
  const found = await source.execute(
    sql`select own_slug as slug, (array_agg(number order by number))[1:6] as numbers from unit
        where struck_at is null and own_slug <> '' and slug <> own_slug group by own_slug order by own_slug limit 30`,
  )
  return found.rows as never
}

const mostOthers = 300

/** Other units whose access point or name is known: an entry of a lease list may be theirs. */
export async function otherUnits(source: Source, butNumber: number) {
  const { unitState } = schema
  const rows = await source
    .select({
      number: unitState.number,
      apMac: unitState.apMac,
      nameSuffix: unitState.nameSuffix,
      family: unitState.family,
      firmware: unitState.firmware,
    })
    .from(unitState)
    .where(
      and(
        or(sql`${unitState.apMac} <> ''`, sql`${unitState.nameSuffix} <> ''`),
        sql`${unitState.number} <> ${butNumber}`,
      ),
    )
    .orderBy(desc(unitState.number))
    .limit(mostOthers)
  return rows.sort((a, b) => a.number - b.number)
}
