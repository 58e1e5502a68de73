import {
  type Campaign,
  type CampaignNow,
  type CampaignUnit,
  type CampaignUnits,
  campaignKept,
  campaignShape,
  campaignUnitsOf,
  type LastWords,
  mayBegin,
  resultsOf,
  ringsOfCampaign,
  wentOf,
} from '@fresh-coat/core/fleet/campaign'
import { survivalOf } from '@fresh-coat/core/fleet/heard-releases'
import type { Presence } from '@fresh-coat/core/live/standing'
import { asksFirst } from '@fresh-coat/core/live/wish'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import type { Source } from '../db/client'
import { command } from '../db/command'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { id } from '../db/fields'
import { type Kept, keptOf } from '../db/kept'
import * as schema from '../db/schema'
import { together } from '../db/together'
import { keepSetting } from '../kit/settings'
import { viewOf } from '../units/one'
import { releasesHeard } from './releases'

const key = 'campaign'

export async function campaignOf(source: Source): Promise<Campaign | null> {
  const { setting } = schema
  const [row] = await source
    .select({ value: setting.value })
    .from(setting)
    .where(and(eq(setting.key, key), isNull(setting.struckAt)))
  const read = row ? campaignKept.safeParse(row.value) : null
  return read?.success ? read.data : null
}

/** Units that serve with a firmware, all or of some, with what runs on them: as heard, else as the record knows it. */
async function unitsServing(source: Source, firmware: string, ids: readonly string[] | null): Promise<CampaignUnit[]> {
  const found = await source.execute(
    sql`select s.unit_id as id, s.number, coalesce(l.fw, s.installed) as installed, s.bridge
        from unit_state s left join live_unit l on l.unit_id = s.unit_id
        where s.in_service and s.firmware_name <> '' and s.firmware_name = ${firmware}
        ${ids ? sql`and s.unit_id = any(${sql.param(ids)}::uuid[])` : sql``}`,
  )
  // Written out: objects that are copies of rows are looked up slowly, and there are thousands.
  return (found.rows as unknown as CampaignUnit[]).map(
    ({ id, number, installed, bridge }): CampaignUnit => ({ id, number, installed, bridge }),
  )
}

const unitsKept = (kept: Kept, source: Source, firmware: string): Promise<CampaignUnits> =>
  kept.once(`units ${firmware}`, async () =>
    campaignUnitsOf(
      await kept.rows(`units ${firmware}`, {
        all: () => unitsServing(source, firmware, null),
        of: (ids) => unitsServing(source, firmware, ids),
      }),
    ),
  )

/** The same, read anew only after one of them changed. */
export const campaignUnits = async (source: Source, firmware: string): Promise<CampaignUnits> =>
  unitsKept(await keptOf(source, 'updates'), source, firmware)

/** What the air knows of those whose update was begun. */
export async function lastWords(source: Source, { begun }: Pick<Campaign, 'begun'>): Promise<LastWords> {
  // Whatever else stands in a kept update is no unit.
  const ids = Object.keys(begun).filter((one) => id.safeParse(one).success)
  if (ids.length === 0) return new Map()
  const found = await source.execute(
    sql`select unit_id as id, fw, fw_at, presence from live_unit where unit_id = any(${sql.param(ids)}::uuid[])`,
  )
  type Row = { id: string; fw: string | null; fw_at: number | null; presence: Presence }
  return new Map(
    (found.rows as unknown as Row[]).map(({ id, fw, fw_at, presence }) => [
      id,
      { heard: fw === null || fw_at === null ? null : { version: fw, at: fw_at }, presence },
    ]),
  )
}

/** How an update stands: its rings are planned anew only after a unit of it, the update itself or what came of one changed. */
export async function campaignStands(source: Source, campaign: Campaign, now: Date): Promise<CampaignNow> {
  const { kept, words } = await together({ kept: keptOf(source, 'updates'), words: lastWords(source, campaign) })
  const units = await unitsKept(kept, source, campaign.policy.firmware)
  const went = wentOf(campaign, units, words, now.getTime())
  const results = resultsOf(went)
  const key = `rings ${JSON.stringify([campaign, [...results]])}`
  const rings = await kept.once(key, () => ringsOfCampaign(campaign, units, results))
  return { ...rings, units, went }
}

/** Firmware that units in service run, most used first. */
export async function firmwareInService(source: Source): Promise<{ name: string; units: number }[]> {
  const found = await source.execute(
    sql`select firmware_name as name, count(*)::int as units from unit_state where in_service and firmware_name <> ''
        group by 1 order by 2 desc, 1`,
  )
  return found.rows as never
}

async function planned(c: Change): Promise<Campaign> {
  const campaign = await campaignOf(c.tx)
  if (!campaign) throw new Refused('no-campaign', 'No update is planned.', 'Plan one first.')
  return campaign
}

const setCampaign = command(campaignShape, async (c, policy) => {
  const before = await campaignOf(c.tx)
  // Another version is another campaign: what was begun for the last one says nothing of this.
  const same = before?.policy.firmware === policy.firmware && before.policy.version === policy.version
  await keepSetting(c, key, { policy, begun: same ? before.begun : {}, said: same ? before.said : {} })
  await c.tell({ kind: 'campaign-set', sentence: `update planned: ${policy.firmware} ${policy.version}` })
  return {}
})

const endCampaign = command(z.strictObject({}), async (c) => {
  const { policy } = await planned(c)
  await keepSetting(c, key, null)
  await c.tell({ kind: 'campaign-ended', sentence: `update put away: ${policy.firmware} ${policy.version}` })
  return {}
})

const beginUpdate = command(z.object({ unitId: id, sure: z.boolean().default(false) }), async (c, { unitId, sure }) => {
  const campaign = await planned(c)
  const view = await viewOf(c, unitId)
  const { units, plan } = await campaignStands(c.tx, campaign, c.now)
  const own = units.get(unitId)
  const release = survivalOf(await releasesHeard(c.tx, campaign.policy.firmware, c.now), campaign.policy.version)
  const why = plan.ok && own ? mayBegin(plan.value.rings, unitId, c.now.getTime(), release) : 'It is in no ring.'
  if (why) throw new Refused('not-yet', why, 'Look at the rings.')
  // A relay may drop or pulse at the restart.
  const danger = asksFirst(view)
  if (danger && !sure)
    throw new Refused(
      'not-sure',
      `It restarts, and its relay may move: ${danger}`,
      'Press again when its load is off or somebody is there.',
    )
  const { [unitId]: _, ...said } = campaign.said
  await keepSetting(c, key, {
    ...campaign,
    said,
    begun: {
      ...campaign.begun,
      [unitId]: { at: c.now.toISOString(), before: campaign.begun[unitId]?.before ?? own?.installed ?? '' },
    },
  })
  await c.tell({
    kind: 'update-begun',
    unitId,
    sentence: `${two(view.number)} update to ${campaign.policy.version} begun`,
  })
  return {}
})

const sayUpdate = command(
  z.object({ unitId: id, ok: z.boolean(), note: z.string().trim().max(200) }),
  async (c, { unitId, ok, note }) => {
    const campaign = await planned(c)
    const view = await viewOf(c, unitId)
    await keepSetting(c, key, {
      ...campaign,
      said: { ...campaign.said, [unitId]: { at: c.now.toISOString(), ok, note } },
    })
    await c.tell({
      kind: 'update-said',
      unitId,
      sentence: `${two(view.number)} update to ${campaign.policy.version} ${ok ? 'went well' : 'failed'}${note ? `: ${note}` : ''}`,
    })
    return {}
  },
)

export const campaignCommands = {
  'set-campaign': setCampaign,
  'end-campaign': endCampaign,
  'begin-update': beginUpdate,
  'say-update': sayUpdate,
}
