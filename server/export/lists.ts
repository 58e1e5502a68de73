import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'

export interface ListedUnit {
  number: number
  name: string
  place: string
  board: string | null
  family: string | null
  firmware: string
  next: string
  inService: boolean
  address: string
  mac: string
  topic: string
  due: string | null
  dueWhat: string
}

/** Every unit, as lists and tables outside the app want it. */
export async function everyUnit(source: Source): Promise<ListedUnit[]> {
  const found = await source.execute(
    sql`select u.number, u.name, u.place, case when b.id is null then null else concat_ws(' ', b.maker, b.product, b.revision) end as board,
          s.family, s.firmware, s.next, s.in_service as "inService", s.address, s.mac, s.topic, s.due::text as due, s.due_what as "dueWhat"
        from unit u join unit_state s on s.unit_id = u.id left join board b on b.id = u.board_id and b.struck_at is null
        where u.struck_at is null order by u.number`,
  )
  return found.rows as unknown as ListedUnit[]
}

export interface LabelUnit {
  number: number
  name: string
  firmware: string
  amps: number | null
  /** What it runs on, where that is not the mains of the site. */
  volts: number | null
}
const mostLabels = 200

/** What stands on the labels of these units; all that are in service where none is named. */
export async function labelled(source: Source, numbers: readonly number[]): Promise<LabelUnit[]> {
  const wanted =
    numbers.length > 0
      ? sql`u.number in (select x::int from jsonb_array_elements_text(${JSON.stringify(numbers)}::jsonb) x)`
      : sql`s.in_service`
  const found = await source.execute(
    sql`select u.number, u.name, s.firmware, (r.data ->> 'ratedAmps')::float as amps, (r.data ->> 'mainsVolts')::float as volts
        from unit u join unit_state s on s.unit_id = u.id
        left join step_record r on r.unit_id = u.id and r.step = 'arrive' and r.struck_at is null
        where u.struck_at is null and ${wanted} order by u.number limit ${mostLabels}`,
  )
  return found.rows as unknown as LabelUnit[]
}
