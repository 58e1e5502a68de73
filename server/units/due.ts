import { campaignNow } from '@fresh-coat/core/fleet/campaign'
import type { DueThing } from '@fresh-coat/core/fleet/due'
import { dueOf } from '@fresh-coat/core/metering/trusted'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { two } from '../db/day'
import * as schema from '../db/schema'
import { instrumentData } from '../kit/stored'
import { campaignOf, campaignUnits } from '../live/campaign'

const mostUnits = 500

/** Units that something falls due on, the soonest first. */
async function unitsDue(source: Source): Promise<DueThing[]> {
  const found = await source.execute(sql`select s.number, u.name, s.due::text as day, s.due_what as what
    from unit_state s join unit u on u.id = s.unit_id where s.due is not null order by s.due, s.number limit ${mostUnits}`)
  return (found.rows as unknown as { number: number; name: string; day: string; what: string }[]).map((r) => ({
    day: r.day,
    what: r.what,
    of: `${two(r.number)} ${r.name}`,
    href: `/units/${r.number}/${r.what.startsWith('Meter') ? 'meter' : 'backup'}`,
    kind: 'unit',
  }))
}

async function referencesDue(source: Source): Promise<DueThing[]> {
  const { kit } = schema
  const rows = await source
    .select({ name: kit.name, data: kit.data })
    .from(kit)
    .where(and(eq(kit.kind, 'instrument'), isNull(kit.struckAt)))
  return rows.flatMap(({ name, data }) => {
    const { checks, everyMonths } = instrumentData(data)
    const day = dueOf(checks, everyMonths)
    return day ? [{ day, what: 'Its own check', of: name, href: '/meters', kind: 'reference' as const }] : []
  })
}

/** Rings of the update that is planned, and not over. */
async function ringsDue(source: Source, now: Date): Promise<DueThing[]> {
  const campaign = await campaignOf(source)
  if (!campaign) return []
  const { plan } = campaignNow(campaign, await campaignUnits(source, campaign.policy.firmware), now.getTime())
  if (!plan.ok) return []
  return plan.value.waves
    .filter((w) => w.status === 'pending')
    .map((w) => ({
      day: w.start.slice(0, 10),
      what: `${w.ring}, ${w.units.length} ${w.units.length === 1 ? 'unit' : 'units'}`,
      of: `${campaign.policy.firmware} ${campaign.policy.version}`,
      href: '/network/updates',
      kind: 'update' as const,
    }))
}

/** Everything that falls due, of whatever. */
export async function everythingDue(source: Source, now: Date): Promise<DueThing[]> {
  return [...(await unitsDue(source)), ...(await referencesDue(source)), ...(await ringsDue(source, now))]
}
