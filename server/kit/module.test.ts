import { readEdge } from '@fresh-coat/core/module/map'
import { withModule } from '@fresh-coat/core/steps/pads/row'
import type { StepId } from '@fresh-coat/core/unit/way'
import { eq, inArray, sql } from 'drizzle-orm'
import { boardsByModule } from '../boards/lists'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { settleRipples } from '../db/ripple'
import * as schema from '../db/schema'
import { codeOf, freshDatabase, heldVersion, runner, unplug } from '../db/testing'
import { loadUnit } from '../units/load'
import { unitPage } from '../units/page'
import { settleAll } from '../units/settle'
import { kitOf } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
const data = {
  family: 'LX106',
  pitchMm: 2,
  edges: [
    { side: 'left', contacts: readEdge('RST, EN, 3V3', 1) },
    { side: 'right', contacts: readEdge('TX, RX, BOOT, GND', 4) },
  ],
}
let number = 0
const arrive = async (boardId: string) =>
  (await run('create-unit', { number: ++number, name: `Lamp ${number}`, boardId })).id as string
const save = async (unitId: string, step: StepId, record: object) =>
  run('save-step', { unitId, step, version: await heldVersion(db, unitId, step), data: record })
const view = async (unitId: string) => {
  const found = await loadUnit(db, unitId, new Date())
  if (!found) throw new Error('gone')
  return found
}
/** What lists show of units, by their ids. */
async function states(ids: string[]): Promise<Record<string, object>> {
  const rows = await db.select().from(schema.unitState).where(inArray(schema.unitState.unitId, ids))
  return Object.fromEntries(rows.map((r) => [r.unitId, r]))
}
const added = async (name: string) => (await run('add-kit', { kind: 'module', name, data })).id as string

test('a contact map is kept as it was written; one with a contact used twice is refused and nothing is kept', async () => {
  const before = (await kitOf(db)).modules.length
  const twice = { ...data, edges: [{ side: 'left', contacts: readEdge('1 GND, 1 3V3', 1) }] }
  expect(codeOf(await runCommand(db, 'add-kit', { kind: 'module', name: 'Twice', data: twice }))).not.toBe('ok')
  expect((await kitOf(db)).modules).toHaveLength(before)
  const id = await added('Quoinsby W8')
  expect((await kitOf(db)).modules.find((m) => m.id === id)).toMatchObject({
    name: 'Quoinsby W8',
    family: 'LX106',
    edges: data.edges,
  })
})

test('a unit that names it has its contacts; done, its board names it for every other unit', async () => {
  const id = await added('Harkle H2')
  const module = (await kitOf(db)).modules.find((m) => m.id === id)
  if (!module) throw new Error('not kept')
  const boardId = (await run('create-board', { maker: 'Tolliver', product: 'Glow', mains: true })).id as string
  const unitId = await arrive(boardId)
  await save(unitId, 'arrive', { route: 'module-off', triedAsSold: 'works', load: 'lamp', mounted: false })
  await save(unitId, 'identify', { decision: { family: 'LX106', reason: 'read on the chip itself' } })
  const row = withModule(module)
  const readings = row.pads.map((r) =>
    r === 'GND' ? { cont_gnd: true, ohms_3v3: 9000 } : r === '3V3' ? { ohms_3v3: 0.3, cont_gnd: false } : {},
  )
  await save(unitId, 'pads', { ...row, readings })
  expect((await view(unitId)).module).toMatchObject({ id, name: 'Harkle H2' })
  expect(await boardsByModule(db)).toEqual({})
  await unplug(run, unitId)
  await run('finish-step', { unitId, step: 'pads', version: await heldVersion(db, unitId, 'pads') })
  expect(await boardsByModule(db)).toEqual({ [id]: ['Tolliver Glow'] })
  const second = await view(await arrive(boardId))
  expect(second.module?.id).toBe(id)
  expect(second.records.pads.data).toMatchObject({ moduleId: id, contacts: row.contacts })
})

test('correcting the map reaches every unit that names it; a map that left the kit is said, and the row stays', async () => {
  const id = await added('Pellworth C1')
  const module = (await kitOf(db)).modules.find((m) => m.id === id)
  if (!module) throw new Error('not kept')
  const boardId = (await run('create-board', { maker: 'Pellworth', product: 'C', mains: false })).id as string
  const unitId = await arrive(boardId)
  await save(unitId, 'pads', withModule(module))
  await run('edit-kit', { kitId: id, version: module.version, name: 'Pellworth C1b', data: { ...data, pitchMm: 1.27 } })
  expect((await view(unitId)).module).toMatchObject({ name: 'Pellworth C1b', pitchMm: 1.27 })
  await db.update(schema.kit).set({ struckAt: new Date() }).where(eq(schema.kit.id, id))
  const after = await view(unitId)
  expect(after.module).toBeNull()
  expect(after.records.pads.data.contacts).toEqual([1, 3, 4, 5, 6, 7])
})

test('what a corrected map says against a unit stands in the lists too, for units that only their board names it for', async () => {
  const id = await added('Tolliver T1')
  const module = (await kitOf(db)).modules.find((m) => m.id === id)
  if (!module) throw new Error('not kept')
  const boardId = (await run('create-board', { maker: 'Tolliver', product: 'T', mains: false })).id as string
  const teacher = await arrive(boardId)
  await save(teacher, 'identify', { decision: { family: 'LX106', reason: 'read on the chip itself' } })
  const row = withModule(module)
  const readings = row.pads.map((r) =>
    r === 'GND' ? { cont_gnd: true, ohms_3v3: 9000 } : r === '3V3' ? { ohms_3v3: 0.3, cont_gnd: false } : {},
  )
  await save(teacher, 'pads', { ...row, readings })
  await run('finish-step', { unitId: teacher, step: 'pads', version: await heldVersion(db, teacher, 'pads') })
  const pupil = await arrive(boardId)
  await settleRipples(db)
  const noted = async () => {
    const { rows } = await db.execute(sql`select kind from ripple where kind = 'module'`)
    return rows.length
  }
  expect(await noted()).toBe(0)
  const before = await states([teacher, pupil])
  await run('edit-kit', { kitId: id, version: module.version, name: 'Tolliver T1', data: { ...data, family: 'RV32' } })
  await settleRipples(db)
  expect(await noted()).toBe(0)
  const after = await states([teacher, pupil])
  // The teacher's pads are said to be another family's now: its state was worked out again.
  expect(after[teacher]).not.toEqual(before[teacher])
  await settleAll(db, new Date())
  expect(await states([teacher, pupil])).toEqual(after)
})

test('a map that cannot be read is no map', async () => {
  const id = await added('Broken')
  await db
    .update(schema.kit)
    .set({ data: { family: 'LX106', edges: 'none' } })
    .where(eq(schema.kit.id, id))
  expect((await kitOf(db)).modules.some((m) => m.id === id)).toBe(false)
})

test('only the step that asks for one gets all maps', async () => {
  const unitId = await arrive((await run('create-board', { maker: 'Harkle', product: 'H', mains: false })).id as string)
  const { number: n } = await view(unitId)
  expect((await unitPage(db, n, 'pads'))?.choices.modules.length).toBeGreaterThan(0)
  expect((await unitPage(db, n, 'wire'))?.choices.modules).toEqual([])
})
