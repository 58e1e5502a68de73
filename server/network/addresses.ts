import { type AddressesShown, addressBoard } from '@fresh-coat/core/network/site-board'
import { noSitePlan, type SitePlan, type SiteUnit, sitePlanShape } from '@fresh-coat/core/network/site-plan'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { command } from '../db/command'
import { keptOf } from '../db/kept'
import * as schema from '../db/schema'
import { together } from '../db/together'
import { keepSetting } from '../kit/settings'

const key = 'addresses'

/** The network of the site as it was written down. */
export async function sitePlanOf(source: Source): Promise<SitePlan> {
  const { setting } = schema
  const [row] = await source
    .select({ value: setting.value })
    .from(setting)
    .where(and(eq(setting.key, key), isNull(setting.struckAt)))
  const read = sitePlanShape.safeParse(row?.value ?? {})
  return read.success ? read.data : noSitePlan
}

const mostUnits = 5000

/** Those that an address plan is made for. */
const planned = sql`s.lane <> 'ended' and (s.mac <> '' or s.address <> '')`

async function howManyAbove(source: Source, number: number): Promise<number> {
  const found = await source.execute(
    sql`select count(*)::int as "all" from unit_state s where ${planned} and s.number > ${number}`,
  )
  return (found.rows as unknown as { all: number }[])[0]?.all ?? 0
}

/** Units that are known on the network, or will be, by their numbers; `beyond`: how many more a plan does not take. */
export async function unitsToPlan(source: Source, most = mostUnits): Promise<{ units: SiteUnit[]; beyond: number }> {
  const found = await source.execute(
    sql`select u.id, u.number, u.name, u.place, s.mac, s.address, u.slug from unit_state s join unit u on u.id = s.unit_id
        where u.struck_at is null and ${planned} order by s.number limit ${most}`,
  )
  // Written out: objects that are copies of rows are looked up slowly, and there are thousands.
  const units = (found.rows as unknown as SiteUnit[]).map(
    ({ id, number, name, place, mac, address, slug }): SiteUnit => ({ id, number, name, place, mac, address, slug }),
  )
  const last = units.at(-1)
  return { units, beyond: last && units.length === most ? await howManyAbove(source, last.number) : 0 }
}

/** How much of a plan its page shows. */
export const addressesShown: AddressesShown = { rows: 100, found: 24, lines: 300, inWords: 30 }

/** The address plan as its page draws it: of thousands of units the few that are shown. */
export async function addressesRoom(source: Source) {
  const { kept, site } = await together({ kept: keptOf(source, 'addresses'), site: sitePlanOf(source) })
  return kept(`room ${JSON.stringify(site)}`, async () => {
    const { units, beyond } = await unitsToPlan(source)
    return {
      site,
      board: addressBoard(site, units, addressesShown),
      beyond: beyond > 0 ? { units: beyond, takes: units.length, above: units.at(-1)?.number ?? 0 } : null,
    }
  })
}

export const setAddresses = command(
  sitePlanShape.extend({ subnet: sitePlanShape.shape.subnet.unwrap() }),
  async (c, input) => {
    await keepSetting(c, key, input)
    await c.tell({ kind: 'addresses-set', sentence: `the address plan is of ${input.subnet || 'no network yet'}` })
    return {}
  },
)
