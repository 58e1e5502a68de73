import { type Pace, paceOf } from '@fresh-coat/core/fleet/bench-time'
import type { RouteCost } from '@fresh-coat/core/unit/cost'
import type { RouteId } from '@fresh-coat/core/unit/way'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source, Tx } from '../db/client'
import * as schema from '../db/schema'

/** Hands-on minutes, added up as events come: nobody runs a stopwatch, and nothing reads a board's whole history. */

/** Adds a moment of work on a unit. What happens to one in service is its life, not the making of it. */
export async function noteMoment(tx: Tx, unitId: string, at: Date, proven: boolean): Promise<void> {
  const { unitPace: p } = schema
  await tx
    .insert(p)
    .values({ unitId, begunAt: at, lastAt: at, minutes: 1, proven })
    .onConflictDoUpdate({
      target: p.unitId,
      set: {
        lastAt: sql`excluded.last_at`,
        proven: sql`${p.proven} or excluded.proven`,
        minutes: sql`${p.minutes} + case when excluded.last_at - ${p.lastAt} <= interval '20 minutes'
          then extract(epoch from excluded.last_at - ${p.lastAt})::double precision / 60 else 1 end`,
      },
      setWhere: sql`not ${p.proven} and excluded.last_at >= ${p.lastAt}`,
    })
}

const mostShown = 24

/** Hands-on minutes of the last units of a board, in the order they were begun. */
export async function paceOfBoard(source: Source, boardId: string): Promise<Pace> {
  const { unitPace: p, unit } = schema
  const newest = await source
    .select({ number: unit.number, begun: p.begunAt, minutes: p.minutes, done: p.proven })
    .from(p)
    .innerJoin(unit, eq(unit.id, p.unitId))
    .where(and(eq(p.boardId, boardId), isNull(unit.struckAt)))
    .orderBy(sql`${p.begunAt} desc`)
    .limit(mostShown)
  return paceOf(newest.map((r) => ({ ...r, begun: r.begun.toISOString() })))
}

/** The last proven units of the workshop that routes are judged by. */
const mostProven = 200

/** What the last proven units of each route took, in minutes and in money, one after the other; and how many died on the way. */
export async function costOfRoutes(source: Source): Promise<Partial<Record<RouteId, RouteCost>>> {
  const { rows } = await source.execute<{ route: RouteId } & RouteCost>(sql`
    with last as (
      (select * from unit_pace where proven order by begun_at desc limit ${mostProven})
      union all (select p.* from unit_pace p join unit u on u.id = p.unit_id
        where not p.proven and u.ended ->> 'how' = 'died' order by p.begun_at desc limit ${mostProven})
    )
    select route, coalesce(percentile_cont(0.5) within group (order by minutes) filter (where p.proven), 0) as minutes,
      count(*) filter (where p.proven)::int as units, count(*) filter (where not p.proven)::int as died,
      coalesce(json_agg(minutes order by p.begun_at) filter (where p.proven), '[]') as taken,
      percentile_cont(0.5) within group (order by paid) filter (where p.proven) as paid,
      count(paid) filter (where p.proven)::int as priced
    from last p
      join unit u on u.id = p.unit_id and u.struck_at is null
      join step_record r on r.unit_id = p.unit_id and r.step = 'arrive' and r.struck_at is null
      cross join lateral (select r.data->>'route' as route, (r.data->>'paid')::double precision as paid) said
    where route is not null group by route`)
  return Object.fromEntries(rows.map(({ route, ...cost }) => [route, cost]))
}

/** Counts every unit's minutes from its events: what {@link noteMoment} adds up comes to the same. */
export async function recountPace(source: Source): Promise<void> {
  await source.execute(sql`delete from unit_pace`)
  await source.execute(sql`
    with proven as (
      select unit_id, min(id) as event_id from event where kind = 'step-done' and step = 'prove' group by unit_id
    ), moments as (
      select e.unit_id, e.id, m.t, p.event_id is not null as proven
      from event e join unit u on u.id = e.unit_id left join proven p on p.unit_id = e.unit_id
      cross join lateral (values (e.at), (e.until)) m(t)
      where p.event_id is null or e.id <= p.event_id
    ), gaps as (
      select unit_id, t, proven, t - lag(t) over (partition by unit_id order by id, t) as gap from moments
    )
    insert into unit_pace (unit_id, board_id, begun_at, last_at, minutes, proven)
    select g.unit_id, u.board_id, min(t), max(t),
      sum(case when gap is null or gap > interval '20 minutes' then 1 else extract(epoch from gap)::double precision / 60 end),
      bool_or(proven)
    from gaps g join unit u on u.id = g.unit_id group by g.unit_id, u.board_id`)
}
