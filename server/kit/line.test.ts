import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { localDay } from '../db/day'
import { codeOf, freshDatabase, runner } from '../db/testing'
import { kitOf } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)

const data = { pins: ['GND', 'TX', 'RX', '3V3'], logicV: 3.3, max3v3Ma: 500, labelledFrom: 'adapter' }
const measured = { latencyMs: 1.3, bestRate: 460_800, family: 'LX6' }
const adapter = async (kitId: string) => (await kitOf(db)).adapters.find((a) => a.id === kitId)

test('what was measured of a line stays with its adapter, with its day, and survives a correction of its form', async () => {
  const kitId = (await run('add-kit', { kind: 'adapter', name: 'Adapter 2', data })).id as string
  expect((await adapter(kitId))?.measured ?? null).toBeNull()
  await run('note-line', { kitId, measured })
  expect((await adapter(kitId))?.measured).toEqual({ ...measured, on: localDay() })
  const version = (await adapter(kitId))?.version
  await run('edit-kit', { kitId, version, name: 'Adapter 2, short leads', data: { ...data, logicV: 5 } })
  expect(await adapter(kitId)).toMatchObject({ name: 'Adapter 2, short leads', logicV: 5, measured })
  // A later measurement takes its place.
  await run('note-line', { kitId, measured: { ...measured, bestRate: null, latencyMs: null } })
  expect((await adapter(kitId))?.measured).toMatchObject({ bestRate: null, latencyMs: null })
})

test('a line of something else, or one that is no line, is refused and nothing changes', async () => {
  const load = { kind: 'load', name: 'Kettle', data: { watts: 2000, kind: 'resistive' } }
  const kitId = (await run('add-kit', load)).id as string
  expect(codeOf(await runCommand(db, 'note-line', { kitId, measured }))).toBe('gone')
  const other = (await run('add-kit', { kind: 'adapter', name: 'Adapter 3', data })).id as string
  for (const wrong of [{ ...measured, bestRate: 12 }, { ...measured, latencyMs: -1 }, { family: 'LX6' }])
    expect((await runCommand(db, 'note-line', { kitId: other, measured: wrong })).ok).toBe(false)
  expect((await adapter(other))?.measured ?? null).toBeNull()
})
