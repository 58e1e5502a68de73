import { type AddressesShown, addressBoard } from '@fresh-coat/core/network/site-board'
import { noSitePlan, type SitePlan, type SiteUnit, sitePlanShape } from '@fresh-coat/core/network/site-plan'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { command } from '../db/command'
import { type Kept, keptOf } from '../db/kept'
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

/** Those that an address plan is made for, all or of some; in whatever order. */
async function readUnits(source: Source, ids: readonly string[] | null): Promise<SiteUnit[]> {
  const found = await source.execute(
    sql`select u.id, u.number, u.name, u.place, s.mac, s.address, u.slug from unit_state s join unit u on u.id = s.unit_id
        where u.struck_at is null and s.lane <> 'ended' and (s.mac <> '' or s.address <> '')
        ${ids ? sql`and s.unit_id = any(${sql.param(ids)}::uuid[])` : sql``}`,
  )
  // Written out: objects that are copies of rows are looked up slowly, and there are thousands.
  return (found.rows as unknown as SiteUnit[]).map(
    ({ id, number, name, place, mac, address, slug }): SiteUnit => ({ id, number, name, place, mac, address, slug }),
  )
}

interface ToPlan {
  /** By their numbers. */
  units: readonly SiteUnit[]
  /** How many more there are than a plan takes. */
  beyond: number
}
async function toPlanOf(kept: Kept, source: Source, most: number): Promise<ToPlan> {
  const all = await kept.rows('units', { all: () => readUnits(source, null), of: (ids) => readUnits(source, ids) })
  return { units: all.length > most ? all.slice(0, most) : all, beyond: Math.max(0, all.length - most) }
}

/** Units that are known on the network, or will be. */
export const unitsToPlan = async (source: Source, most = mostUnits): Promise<ToPlan> =>
  toPlanOf(await keptOf(source, 'addresses'), source, most)

/** How much of a plan its page shows. */
export const addressesShown: AddressesShown = { rows: 100, found: 24, lines: 300, inWords: 30 }

/** The address plan as its page draws it: of thousands of units the few that are shown. */
export async function addressesRoom(source: Source) {
  const { kept, site } = await together({ kept: keptOf(source, 'addresses'), site: sitePlanOf(source) })
  return kept.once(`room ${JSON.stringify(site)}`, async () => {
    const { units, beyond } = await toPlanOf(kept, source, mostUnits)
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
