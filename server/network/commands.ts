import { Phrases } from '@fresh-coat/core/profile/phrases'
import { evidenceRestsOn } from '@fresh-coat/core/steps/hub/states'
import { airShape } from '@fresh-coat/core/unit/air'
import { moneyShape } from '@fresh-coat/core/unit/cost'
import { factsOfUnit } from '@fresh-coat/core/unit/facts'
import { hubSayings, otherLinks, testDirections } from '@fresh-coat/core/unit/view'
import { z } from 'zod'
import { command } from '../db/command'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { id, name, version } from '../db/fields'
import { keepSetting } from '../kit/settings'
import { viewOf } from '../units/one'
import { setAddresses } from './addresses'

const slug = z.string().regex(/^[a-z0-9]+(-[a-z0-9]+)*$/)

const addHub = command(z.object({ name }), async (c, input) => {
  const row = await c.insert('hub', input)
  await c.tell({ kind: 'hub-added', sentence: `hub added: ${row.name}` })
  return { id: row.id }
})

const wordHub = command(z.object({ hubId: id, version, phrases: Phrases.nullable() }), async (c, input) => {
  const row = await c.update('hub', input.hubId, input.version, { phrases: input.phrases })
  await c.tell({ kind: 'hub-worded', sentence: `what ${row.name} takes in is written down` })
  return { version: row.version }
})

const addHubTest = command(
  z.object({
    unitId: id,
    direction: z.enum([...testDirections, ...hubSayings, ...otherLinks]),
    channel: z.number().int().min(0).max(64).nullable().default(null),
    ok: z.boolean(),
    seen: z.string().trim().min(1).max(500),
  }),
  async (c, { unitId, ...input }) => {
    const view = await viewOf(c, unitId)
    const { hubId } = view.records.hub.data
    if (!hubId) throw new Refused('no-hub', 'No hub is chosen.', 'Choose the hub first.')
    const facts = factsOfUnit(view)
    await c.insert('hubTest', {
      unitId,
      hubId,
      ...input,
      basis: Object.fromEntries(evidenceRestsOn(view, input.direction).map((f) => [f, facts[f]])),
      by: c.by,
      at: c.now,
    })
    await c.tell({
      kind: 'hub-tested',
      unitId,
      step: 'hub',
      sentence: `${two(view.number)} ${input.direction}${input.channel === null ? '' : ` on channel ${input.channel}`}: ${input.ok ? 'seen' : 'failed'}`,
    })
    return {}
  },
)

const setSite = command(
  z.object({
    name,
    base: slug,
    slug,
    mainsVolts: z.number().min(90).max(260).optional(),
    money: moneyShape.optional(),
    air: airShape.optional(),
  }),
  async (c, input) => {
    await keepSetting(c, 'site', input)
    await c.tell({ kind: 'site-set', sentence: `site is ${input.name}` })
    return {}
  },
)

export const networkCommands = {
  'add-hub': addHub,
  'word-hub': wordHub,
  'add-hub-test': addHubTest,
  'set-site': setSite,
  'set-addresses': setAddresses,
}
