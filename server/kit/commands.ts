import { RouteAssumptions } from '@fresh-coat/core/calculators/routes-of-site'
import { type Fault, parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { families } from '@fresh-coat/core/families/families'
import { ProfileFields } from '@fresh-coat/core/flash/release'
import { identify } from '@fresh-coat/core/identify/identify'
import { markingKey } from '@fresh-coat/core/identify/markings'
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import { command } from '../db/command'
import { localDay } from '../db/day'
import { BadInput, Refused } from '../db/fault'
import { id, name, version } from '../db/fields'
import * as schema from '../db/schema'
import { keepSetting } from './settings'
import { AdapterMeasured, type KitKind, kitSchemas } from './stored'

const KitFields = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('adapter'), name, data: kitSchemas.adapter }),
  z.object({ kind: z.literal('instrument'), name, data: kitSchemas.instrument }),
  z.object({ kind: z.literal('load'), name, data: kitSchemas.load }),
  z.object({ kind: z.literal('line'), name, data: kitSchemas.line }),
  z.object({ kind: z.literal('module'), name, data: kitSchemas.module }),
])
const FamilyCounts = z.partialRecord(z.enum(families), z.number().int().min(0).max(100_000))

const addKit = command(KitFields, async (c, input) => {
  const row = await c.insert('kit', input)
  await c.tell({ kind: 'kit-added', sentence: `${row.kind} added: ${row.name}` })
  return { id: row.id }
})

const editKit = command(
  z.object({ kitId: id, version, name, data: z.unknown() }),
  async (c, { kitId, version: seen, name: newName, data }) => {
    const [row] = await c.live('kit', eq(schema.kit.id, kitId))
    if (!row) throw new Refused('gone', 'It is not in the kit any more.', 'Reload the page.')
    const parsed = parseInput(kitSchemas[row.kind as KitKind] as z.ZodType, data, strictCodes)
    if (!parsed.ok) throw new BadInput(parsed.faults as Fault[])
    // What was measured is not on the form, and stays.
    const { measured } = row.data as { measured?: unknown }
    const kept = measured === undefined || row.kind !== 'adapter' ? {} : { measured }
    const saved = await c.update('kit', kitId, seen, { name: newName, data: { ...kept, ...(parsed.value as object) } })
    await c.tell({ kind: 'kit-edited', sentence: `${row.kind} edited: ${newName}` })
    return { version: saved.version }
  },
)

/** What the link measured of an adapter's line, on a chip in its loader. */
const noteLine = command(
  z.object({ kitId: id, measured: AdapterMeasured.omit({ on: true }) }),
  async (c, { kitId, measured }) => {
    const [row] = await c.live('kit', eq(schema.kit.id, kitId))
    if (row?.kind !== 'adapter') throw new Refused('gone', 'This adapter is not in the kit.', 'Choose one at Wire.')
    const on = localDay(c.now)
    await c.update('kit', kitId, null, { data: { ...(row.data as object), measured: { ...measured, on } } })
    await c.tell({
      kind: 'line-measured',
      sentence: `line of ${row.name} measured: ${measured.bestRate === null ? 'it does not hold' : `it holds ${measured.bestRate} baud`}`,
    })
    return {}
  },
)

const addProfile = command(z.object({ name, data: ProfileFields }), async (c, input) => {
  const row = await c.insert('profile', input)
  await c.tell({ kind: 'profile-added', sentence: `firmware added: ${row.name}` })
  return { id: row.id }
})

const editProfile = command(
  z.object({ profileId: id, version, name, data: ProfileFields }),
  async (c, { profileId, version: seen, ...patch }) => {
    const row = await c.update('profile', profileId, seen, patch)
    await c.tell({ kind: 'profile-edited', sentence: `firmware ${row.name} edited` })
    return { version: row.version }
  },
)

const keepMarking = command(
  z.object({ text: z.string().trim().min(1).max(80), counts: FamilyCounts }),
  async (c, { text, counts }) => {
    const key = markingKey(text)
    if (key === '')
      throw new Refused('no-marking', 'There is no letter or digit in this marking.', 'Type it as printed.')
    const [row] = await c.live('marking', eq(schema.marking.key, key))
    if (row) await c.update('marking', row.id, null, { counts })
    else await c.insert('marking', { key, text, counts })
    await c.tell({ kind: 'marking-kept', sentence: `marking ${text}: counts entered` })
    return {}
  },
)

const setPrior = command(
  z.object({ prior: z.partialRecord(z.enum(families), z.number().min(0).max(1)).nullable() }),
  async (c, { prior }) => {
    const checked = prior ? identify({ evidence: [], prior }) : null
    if (checked && !checked.ok) throw new BadInput(checked.faults)
    await keepSetting(c, 'prior', prior)
    await c.tell({
      kind: 'prior-set',
      sentence: prior ? 'chances before any evidence: entered' : 'chances before any evidence: as shipped',
    })
    return {}
  },
)

const setRouteCosts = command(z.object({ assumed: RouteAssumptions }), async (c, { assumed }) => {
  await keepSetting(c, 'routes', assumed)
  await c.tell({ kind: 'routes-set', sentence: 'what the routes cost: entered' })
  return {}
})

export const kitCommands = {
  'add-kit': addKit,
  'edit-kit': editKit,
  'note-line': noteLine,
  'add-profile': addProfile,
  'edit-profile': editProfile,
  'keep-marking': keepMarking,
  'set-prior': setPrior,
  'set-route-costs': setRouteCosts,
}
