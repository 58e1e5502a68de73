import { countedByDay, type DueDays, type DueThing, dayPlus } from '@fresh-coat/core/fleet/due'
import { dueOf } from '@fresh-coat/core/metering/trusted'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { localDay, two } from '../db/day'
import * as schema from '../db/schema'
import { together } from '../db/together'
import { instrumentData } from '../kit/stored'
import { campaignOf, campaignStands } from '../live/campaign'

interface UnitDue {
  number: number
  name: string
  day: string
  what: string
}
const dueOfUnit = ({ number, name, day, what }: UnitDue): DueThing => ({
  day,
  what,
  of: `${two(number)} ${name}`,
  href: `/units/${number}/${what.startsWith('Meter') ? 'meter' : 'backup'}`,
  kind: 'unit',
})

/** Units that something falls due on, the soonest first. */
async function unitsDue(source: Source): Promise<DueThing[]> {
  const found = await source.execute(sql`select s.number, u.name, s.due::text as day, s.due_what as what
    from unit_state s join unit u on u.id = s.unit_id where s.due is not null order by s.due, s.number`)
  return (found.rows as unknown as UnitDue[]).map(dueOfUnit)
}

/** The first of them over, within a week, later, and of each day that is drawn: each read by the order of the index. */
async function firstUnitsDue(source: Source, today: string, { inGroup, inDay, days }: DueShown): Promise<DueThing[]> {
  const week = dayPlus(today, 7)
  const found = await source.execute(sql`select s.number, u.name, s.due::text as day, s.due_what as what from (
      (select unit_id from unit_state where due is not null and due < ${today} order by due, number limit ${inGroup})
      union (select unit_id from unit_state where due >= ${today} and due < ${week} order by due, number limit ${inGroup})
      union (select unit_id from unit_state where due >= ${week} order by due, number limit ${inGroup})
      union select t.unit_id from generate_series(0, ${days.length - 1}::int) i
        cross join lateral (select unit_id from unit_state where due = ${days[0] ?? today}::date + i order by due, number limit ${inDay}) t
    ) shown join unit_state s on s.unit_id = shown.unit_id join unit u on u.id = s.unit_id order by s.due, s.number`)
  return (found.rows as unknown as UnitDue[]).map(dueOfUnit)
}

async function unitsPerDay(source: Source): Promise<Record<string, number>> {
  const found = await source.execute(
    sql`select due::text as day, count(*)::int as many from unit_state where due is not null group by due`,
  )
  return Object.fromEntries((found.rows as unknown as { day: string; many: number }[]).map((r) => [r.day, r.many]))
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
  const { plan } = await campaignStands(source, campaign, now)
  if (!plan.ok) return []
  return plan.value.rings
    .filter((r) => r.status === 'pending')
    .map((r) => ({
      day: localDay(new Date(r.start)),
      what: `${r.ring}, ${r.all} ${r.all === 1 ? 'unit' : 'units'}`,
      of: `${campaign.policy.firmware} ${campaign.policy.version}`,
      href: '/network/updates',
      kind: 'update' as const,
    }))
}

/** Everything that falls due, of whatever. */
export async function everythingDue(source: Source, now: Date): Promise<DueThing[]> {
  return (await Promise.all([unitsDue(source), referencesDue(source), ringsDue(source, now)])).flat()
}

/** How much of it a page shows: of each group, and of each of the days that it draws. */
export interface DueShown {
  inGroup: number
  inDay: number
  /** In their order, without a gap. */
  days: readonly string[]
}

/** What a page shows of everything that falls due, and how much there is on each day. */
export async function dueToShow(source: Source, now: Date, shown: DueShown): Promise<DueDays> {
  const found = await together({
    units: firstUnitsDue(source, localDay(now), shown),
    unitsOn: unitsPerDay(source),
    references: referencesDue(source),
    rings: ringsDue(source, now),
  })
  const others = [...found.references, ...found.rings]
  const perDay = countedByDay(others.map((t) => t.day))
  for (const [day, many] of Object.entries(found.unitsOn)) perDay[day] = (perDay[day] ?? 0) + many
  return { things: [...found.units, ...others], perDay }
}
