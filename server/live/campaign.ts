import {
  type Campaign,
  type CampaignUnit,
  campaignKept,
  campaignNow,
  campaignShape,
  mayBegin,
} from '@fresh-coat/core/fleet/campaign'
import { survivalOf } from '@fresh-coat/core/fleet/heard-releases'
import type { LiveState, Presence } from '@fresh-coat/core/live/standing'
import { asksFirst } from '@fresh-coat/core/live/wish'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import type { Source } from '../db/client'
import { command } from '../db/command'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { id } from '../db/fields'
import * as schema from '../db/schema'
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

/** "Plainsong 9.4.1/full" → 9.4.1 */
const versionIn = (firmware: string): string => /\s(\S+?)(\/|\s|$)/.exec(firmware)?.[1] ?? ''

/** Units that serve with a firmware, with what the record and the air know of them. */
export async function campaignUnits(source: Source, firmware: string): Promise<CampaignUnit[]> {
  const found = await source.execute(
    sql`select u.id, u.number, u.name, u.place, s.firmware, w.data -> 'installed' ->> 'version' as noted, l.presence,
          l.state #> '{fields,fw}' as fw,
          coalesce(jsonb_typeof(h.data -> 'bridge') = 'object', false) as bridge
        from unit u join unit_state s on s.unit_id = u.id left join live_unit l on l.unit_id = u.id
        left join step_record w on w.unit_id = u.id and w.step = 'watch' and w.struck_at is null
        left join step_record h on h.unit_id = u.id and h.step = 'hub' and h.struck_at is null
        where u.struck_at is null and s.in_service and (s.firmware = ${firmware} or s.firmware like ${`${firmware} %`}) order by u.number`,
  )
  type Row = {
    id: string
    number: number
    name: string
    place: string
    firmware: string
    noted: string | null
    presence: Presence | null
    fw: LiveState['fields'][string] | null
    bridge: boolean
  }
  return (found.rows as unknown as Row[]).map((r) => {
    const { fw } = r
    const heard = fw && typeof fw.value === 'string' ? { version: fw.value, at: fw.at } : null
    return {
      id: r.id,
      number: r.number,
      name: r.name,
      place: r.place,
      installed: heard?.version ?? r.noted ?? versionIn(r.firmware),
      heard,
      presence: r.presence,
      ...(r.bridge ? { bridge: true } : {}),
    }
  })
}

/** Firmware that units in service run, most used first. */
export async function firmwareInService(source: Source): Promise<{ name: string; units: number }[]> {
  const found = await source.execute(
    sql`select split_part(s.firmware, ' ', 1) as name, count(*)::int as units from unit u join unit_state s on s.unit_id = u.id
        where u.struck_at is null and s.in_service and s.firmware <> '' group by 1 order by 2 desc, 1`,
  )
  return found.rows as never
}

async function kept(c: Change): Promise<Campaign> {
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
  const { policy } = await kept(c)
  await keepSetting(c, key, null)
  await c.tell({ kind: 'campaign-ended', sentence: `update put away: ${policy.firmware} ${policy.version}` })
  return {}
})

const beginUpdate = command(z.object({ unitId: id, sure: z.boolean().default(false) }), async (c, { unitId, sure }) => {
  const campaign = await kept(c)
  const view = await viewOf(c, unitId)
  const units = await campaignUnits(c.tx, campaign.policy.firmware)
  const own = units.find((u) => u.id === unitId)
  const { plan } = campaignNow(campaign, units, c.now.getTime())
  const release = survivalOf(await releasesHeard(c.tx, campaign.policy.firmware), campaign.policy.version)
  const why = plan.ok && own ? mayBegin(plan.value.waves, unitId, c.now.getTime(), release) : 'It is in no ring.'
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
    const campaign = await kept(c)
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
