import { RouteAssumptions, usualAssumptions } from '@fresh-coat/core/calculators/routes-of-site'
import type { Family } from '@fresh-coat/core/families/families'
import type { Release } from '@fresh-coat/core/flash/release'
import { type FamilyCounts, gatherMarkings, type Marking, markingKey } from '@fresh-coat/core/identify/markings'
import type { ConsoleWords } from '@fresh-coat/core/link/questions'
import type { Mapping } from '@fresh-coat/core/live/mapping'
import type { KitModule } from '@fresh-coat/core/module/map'
import type { SetupMode } from '@fresh-coat/core/network/beats'
import type { Phrases } from '@fresh-coat/core/profile/phrases'
import type { Adapter } from '@fresh-coat/core/unit/view'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'
import { adapterData, instrumentData, lineData, loadData, moduleData } from './stored'

export interface ProfileData {
  families: string[]
  setupAddress: string
  about: string
  releases?: Release[]
  startOffsets?: Partial<Record<Family, number>>
  console?: ConsoleWords | null
  phrases?: Phrases | null
  air?: Mapping | null
  setup?: SetupMode | null
}
export interface Profile {
  id: string
  name: string
  version: number
  data: ProfileData
}
export type Load = {
  id: string
  name: string
  watts: number
  kind: string
  ohms: number | null
  checkedOn: string | null
  version: number
}

/** A person's own line for a tool of theirs. */
export type Line = { id: string; name: string; text: string; version: number }

type KitRow = Pick<typeof schema.kit.$inferSelect, 'id' | 'kind' | 'name' | 'version' | 'data'>
const about = (k: Pick<KitRow, 'id' | 'name' | 'version'>) => ({ id: k.id, name: k.name, version: k.version })
export const adapterView = (k: Pick<KitRow, 'id' | 'name' | 'version' | 'data'>): Adapter & { version: number } => ({
  ...adapterData(k.data),
  ...about(k),
})

export const moduleView = (
  k: Pick<KitRow, 'id' | 'name' | 'version' | 'data'>,
): (KitModule & { version: number }) | null => {
  const data = moduleData(k.data)
  return data && { ...data, ...about(k) }
}

export const kitOf = async (source: Source) =>
  kitViews(await source.select().from(schema.kit).where(isNull(schema.kit.struckAt)).orderBy(schema.kit.name))

/** Rows of the kit by what they are. */
export function kitViews(rows: readonly KitRow[]) {
  const of = (kind: string) => rows.filter((k) => k.kind === kind)
  return {
    adapters: of('adapter').map(adapterView),
    instruments: of('instrument').map((k) => ({
      ...instrumentData(k.data),
      ...about(k),
    })),
    loads: of('load').map((k): Load => ({ ...loadData(k.data), ...about(k) })),
    modules: of('module').flatMap((k) => moduleView(k) ?? []),
    lines: of('line').map((k): Line => ({ ...lineData(k.data), ...about(k) })),
  }
}

export async function profiles(source: Source): Promise<Profile[]> {
  const { profile } = schema
  const rows = await source.select().from(profile).where(isNull(profile.struckAt)).orderBy(profile.name)
  return rows.map((p) => ({ id: p.id, name: p.name, version: p.version, data: p.data as ProfileData }))
}

/** What the place assumes of each route; typical figures where nobody has said anything, or what was stored cannot be read. */
export async function routeAssumptionsOf(source: Source): Promise<RouteAssumptions> {
  const { setting } = schema
  const [row] = await source
    .select()
    .from(setting)
    .where(and(eq(setting.key, 'routes'), isNull(setting.struckAt)))
  const read = RouteAssumptions.safeParse(row?.value)
  return read.success ? read.data : usualAssumptions
}

export async function priorOf(source: Source): Promise<FamilyCounts | null> {
  const { setting } = schema
  const [row] = await source
    .select()
    .from(setting)
    .where(and(eq(setting.key, 'prior'), isNull(setting.struckAt)))
  return (row?.value as FamilyCounts | undefined) ?? null
}

const mostMarkings = 200
const mostUnitsOfMarking = 40

const everyKey = `with recursive p as (
    (select printed_key from unit_state where printed_key <> '' order by printed_key limit 1)
    union all
    select (select printed_key from unit_state where printed_key <> '' and printed_key > p.printed_key order by printed_key limit 1)
    from p where p.printed_key is not null
  ) select printed_key from p where printed_key is not null limit ${mostMarkings}`

/** Printed markings met here, with the counts found for each. @param only the one that reads like this text */
export async function markings(source: Source, only?: string): Promise<Marking[]> {
  const key = only === undefined ? null : markingKey(only)
  if (key === '') return []
  // One look into the index per marking, however many units carry it.
  const keys = key === null ? sql.raw(everyKey) : sql`select ${key}::text as printed_key`
  const found = await source.execute(
    sql`select k.printed_key, s.printed, s.number, s.established from (${keys}) k
        cross join lateral (select printed, number, established from unit_state
         where printed_key = k.printed_key and printed_key <> '' order by number limit ${mostUnitsOfMarking}) s
        order by s.number`,
  )
  const own = await source
    .select()
    .from(schema.marking)
    .where(and(isNull(schema.marking.struckAt), key === null ? undefined : eq(schema.marking.key, key)))
    .limit(mostMarkings)
  type Row = { printed: string; number: number; established: Family | null }
  return gatherMarkings(
    (found.rows as unknown as Row[]).map((r) => ({ number: r.number, printed: r.printed, family: r.established })),
    own.map((m) => ({ text: m.text, counts: m.counts as FamilyCounts })),
  )
}
