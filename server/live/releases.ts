import { type HeardOnRelease, type HeardRestart, releaseRecords } from '@fresh-coat/core/fleet/heard-releases'
import type { ReleaseRecord } from '@fresh-coat/core/fleet/survival'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'

/**
 * How the releases of a firmware fared on units in service: hours in which each was heard, by what it ran then, and its restarts. What a
 * unit ran before its first update is what that update says it was; without one, what it says now.
 */
export async function releasesHeard(source: Source, firmware: string): Promise<ReleaseRecord[]> {
  const spans = sql`serving as (
      select s.unit_id as id, l.fw from unit_state s join live_unit l on l.unit_id = s.unit_id
      where s.in_service and s.firmware_name <> '' and s.firmware_name = ${firmware}
    ), ups as (
      select h.unit_id, h.at, h.data ->> 'value' as v, h.data ->> 'was' as was,
        lead(h.at) over w as until, row_number() over w as n
      from live_happening h join serving s on s.id = h.unit_id where h.kind = 'update' window w as (partition by h.unit_id order by h.at)
    ), spans as (
      select unit_id, v, at as since, coalesce(until, 'infinity') as until from ups
      union all select unit_id, was, '-infinity', at from ups where n = 1
      union all select id, fw, '-infinity', 'infinity' from serving where not exists (select 1 from ups where ups.unit_id = serving.id)
    )`
  const hours = await source.execute(sql`with ${spans}
    select p.unit_id as unit, p.v as version, count(*)::int as hours from spans p
      join live_hour h on h.unit_id = p.unit_id and h.hour >= date_trunc('hour', p.since) and h.hour < p.until
    where p.v is not null group by 1, 2`)
  const restarts = await source.execute(sql`with ${spans}
    select p.unit_id as unit, p.v as version, extract(epoch from h.at)::double precision * 1000 as at from spans p
      join live_happening h on h.unit_id = p.unit_id and h.kind = 'restart' and h.at >= p.since and h.at < p.until
    where p.v is not null`)
  return releaseRecords(hours.rows as unknown as HeardOnRelease[], restarts.rows as unknown as HeardRestart[])
}
