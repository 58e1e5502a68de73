import { noSitePlan, type SitePlan, type SiteUnit, sitePlanShape } from '@fresh-coat/core/network/site-plan'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { command } from '../db/command'
import * as schema from '../db/schema'
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

/** Units that are known on the network, or will be, by their numbers; `beyond`: how many more a plan does not take. */
export async function unitsToPlan(source: Source, most = mostUnits): Promise<{ units: SiteUnit[]; beyond: number }> {
  const found = await source.execute(
    sql`select u.id, u.number, u.name, u.place, s.mac, s.address, u.slug, count(*) over ()::int as "all" from unit u join unit_state s on s.unit_id = u.id
        where u.struck_at is null and s.lane <> 'ended' and (s.mac <> '' or s.address <> '') order by u.number limit ${most}`,
  )
  const rows = found.rows as unknown as (SiteUnit & { all: number })[]
  return { units: rows.map(({ all: _, ...unit }) => unit), beyond: (rows[0]?.all ?? 0) - rows.length }
}

export const setAddresses = command(
  sitePlanShape.extend({ subnet: sitePlanShape.shape.subnet.unwrap() }),
  async (c, input) => {
    await keepSetting(c, key, input)
    await c.tell({ kind: 'addresses-set', sentence: `the address plan is of ${input.subnet || 'no network yet'}` })
    return {}
  },
)
