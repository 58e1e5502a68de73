import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'

export interface ToldUnit {
  number: number
  name: string
  /** Was it told the password of the network, that of the broker? */
  wifi: boolean
  broker: boolean
  /** Where else those passwords were put, as people noted it. */
  keptIn: string[]
}

const mostTold = 5000

const told = sql`unit u join unit_state s on s.unit_id = u.id
      join step_record r on r.unit_id = u.id and r.step = 'join' and r.struck_at is null
    where u.struck_at is null and s.lane <> 'ended'`
const knowsWifi = sql`s.address <> '' or r.data ->> 'wifiSecret' <> ''`
const knowsBroker = sql`coalesce(r.data ->> 'brokerSecret', '') <> ''`

/** Units that know the passwords of the place: who has to be visited when one of them changes. */
export async function toldUnits(source: Source): Promise<ToldUnit[]> {
  const found = await source.execute(sql`
    select u.number, u.name, ${knowsWifi} as wifi, ${knowsBroker} as broker,
      coalesce((select json_agg(distinct k.kept_in) from secret k where k.unit_id = u.id and k.struck_at is null and k.kept_in <> ''
        and k.id::text in (r.data ->> 'wifiSecret', r.data ->> 'secondSecret', r.data ->> 'brokerSecret')), '[]') as "keptIn"
    from ${told} and (${knowsWifi} or ${knowsBroker})
    order by u.number limit ${mostTold}`)
  return found.rows as unknown as ToldUnit[]
}
