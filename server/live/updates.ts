import type { CampaignPolicy, CampaignUnit, CampaignUnits } from '@fresh-coat/core/fleet/campaign'
import { type BoardShown, boardOf, type CampaignBoard } from '@fresh-coat/core/fleet/campaign-board'
import { survivalOf } from '@fresh-coat/core/fleet/heard-releases'
import type { Survival } from '@fresh-coat/core/fleet/survival'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'
import { campaignOf, campaignStands, campaignUnits, firmwareInService } from './campaign'
import { releasesHeard } from './releases'

/** The room of updates, as much of it as is drawn. */

/** Blocks that a ring draws, units to choose from, numbers in a sentence. */
const shown: BoardShown = { inRing: 48, inList: 30, inWords: 30 }
const mostSpecial = 60

/** A unit that an update may treat otherwise than the rest. */
export interface UpdateUnit {
  id: string
  number: number
  name: string
  bridge: boolean
}
export interface UpdatesRoom {
  policy: CampaignPolicy | null
  board: CampaignBoard | null
  survival: Survival | null
  firmwares: { name: string; units: number }[]
  /** Bridges, those of whom something was said, and whom these wait for. */
  special: UpdateUnit[]
  /** Of every unit that is shown, by its number. */
  names: Record<number, string>
}

async function namesOf(source: Source, numbers: readonly number[]): Promise<Record<number, string>> {
  const found = await source.execute(
    sql`select number, name from unit where struck_at is null
        and number in (select x::int from jsonb_array_elements_text(${JSON.stringify([...new Set(numbers)])}::jsonb) x)`,
  )
  return Object.fromEntries(
    (found.rows as unknown as { number: number; name: string }[]).map((r) => [r.number, r.name]),
  )
}

const numbersOn = ({ rings, list, skipped, unknown, chosen }: CampaignBoard): number[] => [
  ...rings.flatMap((r) => r.units.map((u) => u.number)),
  ...list.map((u) => u.number),
  ...skipped.flatMap((s) => s.numbers),
  ...unknown.numbers,
  ...(chosen ? [chosen.number] : []),
]

function specialOf(policy: CampaignPolicy | null, units: CampaignUnits): CampaignUnit[] {
  const said = policy?.units ?? {}
  const named = new Set([...Object.keys(said), ...Object.values(said).flatMap((u) => u.after)])
  const bridges = [...units.values()].filter((u) => u.bridge && !named.has(u.id)).slice(0, mostSpecial)
  return [...[...units.values()].filter((u) => named.has(u.id)), ...bridges].sort((a, b) => a.number - b.number)
}

/** @param chosen number of the unit that somebody looks at, null: none */
export async function updatesRoom(source: Source, now: Date, chosen: number | null): Promise<UpdatesRoom> {
  const [campaign, firmwares] = await Promise.all([campaignOf(source), firmwareInService(source)])
  const firmware = campaign?.policy.firmware ?? firmwares[0]?.name ?? ''
  const [stands, releases] = await Promise.all([
    campaign ? campaignStands(source, campaign, now) : null,
    campaign ? releasesHeard(source, firmware, now) : [],
  ])
  const survival = campaign ? survivalOf(releases, campaign.policy.version) : null
  const board = campaign && stands ? boardOf(campaign, stands, now.getTime(), survival, chosen, shown) : null
  const special = specialOf(campaign?.policy ?? null, stands?.units ?? (await campaignUnits(source, firmware)))
  const names = await namesOf(source, [...(board ? numbersOn(board) : []), ...special.map((u) => u.number)])
  return {
    policy: campaign?.policy ?? null,
    board,
    survival,
    firmwares,
    special: special.map(({ id, number, bridge }) => ({ id, number, bridge, name: names[number] ?? '' })),
    names,
  }
}

const mostListed = 5000

/** Every unit that an update of this firmware concerns, for a form that asks for one by its number. */
export async function updateUnits(source: Source, firmware: string): Promise<UpdateUnit[]> {
  const found = await source.execute(
    sql`select s.unit_id as id, s.number, u.name, s.bridge from unit_state s join unit u on u.id = s.unit_id
        where s.in_service and s.firmware_name <> '' and s.firmware_name = ${firmware} order by s.number limit ${mostListed}`,
  )
  return found.rows as unknown as UpdateUnit[]
}
