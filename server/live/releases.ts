import { type HeardOnRelease, type HeardRestart, releaseRecords } from '@fresh-coat/core/fleet/heard-releases'
import type { ReleaseRecord } from '@fresh-coat/core/fleet/survival'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { happeningDays } from './writes'

const dayMs = 86_400_000

/** Whole days of what is kept of restarts and updates: the first of them begins then, in UTC. */
const countedFrom = (now: Date): string =>
  new Date(Math.ceil((now.getTime() - happeningDays * dayMs) / dayMs) * dayMs).toISOString()

/**
 * How the releases of a firmware fared on units in service: hours in which each was heard, by what it ran then, and its restarts. What a
 * unit ran before its first update is what that update says it was; without one, what it says now. Only as far back as restarts and
 * updates are kept: an hour whose restarts are forgotten would make a release look steadier than it is.
 */
export async function releasesHeard(source: Source, firmware: string, now = new Date()): Promise<ReleaseRecord[]> {
  const from = sql`${countedFrom(now)}::timestamptz`
  const spans = sql`serving as (
      select s.unit_id as id, l.fw from unit_state s join live_unit l on l.unit_id = s.unit_id
      where s.in_service and s.firmware_name <> '' and s.firmware_name = ${firmware}
    ), ups as (
      select h.unit_id, h.at, h.data ->> 'value' as v, h.data ->> 'was' as was,
        lead(h.at) over w as until, row_number() over w as n
      from live_happening h join serving s on s.id = h.unit_id
      where h.kind = 'update' and h.at >= ${from} window w as (partition by h.unit_id order by h.at)
    ), spans as (
      select unit_id, v, at as since, coalesce(until, 'infinity') as until from ups
      union all select unit_id, was, ${from}, at from ups where n = 1
      union all select id, fw, ${from}, 'infinity' from serving where not exists (select 1 from ups where ups.unit_id = serving.id)
    )`
  // Days that lie whole in a span are counted already; of the days at its ends the hours are.
  const hours = await source.execute(sql`with ${spans}, edged as (
      select unit_id, v, date_trunc('hour', since) as since, until,
        date_trunc('day', date_trunc('hour', since) + interval '1 day' - interval '1 hour', 'UTC') as first,
        date_trunc('day', until, 'UTC') as last
      from spans where v is not null
    ), edges as (
      select unit_id, v, since as from_at, least(first, until) as to_at from edged
      union all select unit_id, v, greatest(first, last), until from edged
    ), counted as (
      select e.unit_id, e.v, d.hours from edged e join live_day d on d.unit_id = e.unit_id
        and d.day >= (e.first at time zone 'UTC')::date and d.day < (e.last at time zone 'UTC')::date
      union all
      select e.unit_id, e.v, 1 from edges e join live_hour h on h.unit_id = e.unit_id and h.hour >= e.from_at and h.hour < e.to_at
      where e.from_at < e.to_at
    ) select unit_id as unit, v as version, sum(hours)::int as hours from counted group by 1, 2`)
  const restarts = await source.execute(sql`with ${spans}
    select p.unit_id as unit, p.v as version, extract(epoch from h.at)::double precision * 1000 as at from spans p
      join live_happening h on h.unit_id = p.unit_id and h.kind = 'restart' and h.at >= p.since and h.at < p.until
    where p.v is not null`)
  return releaseRecords(hours.rows as unknown as HeardOnRelease[], restarts.rows as unknown as HeardRestart[])
}
