import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildPartitions, noise, twoSlotLayout } from '@fresh-coat/core/image/build'
import { curtainApp, curtainLoader } from '@fresh-coat/core/testing/curtain'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { codeOf, freshDatabase, heldVersion, runner } from '../db/testing'
import { loadUnit } from '../units/load'
import { readBlob } from './blobs'
import { keepFile } from './keep'
import { judgeSetFor } from './sets'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-sets-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
const viewOf = async (id: string) => {
  const view = await loadUnit(db, id, new Date())
  if (!view) throw new Error('no such unit')
  return view
}

const files = {
  'loader.bin': curtainLoader(),
  'table.bin': buildPartitions(twoSlotLayout),
  'select.bin': noise(0x2000, 9),
  'curtain.bin': curtainApp(),
}
const places = { 'loader.bin': 0, 'table.bin': 0x8000, 'select.bin': 0xd000, 'curtain.bin': 0x10000 }
type Name = keyof typeof files

let number = 60
/** An RV32 unit with these files at Check. */
async function withSet(names: readonly Name[], at: Partial<Record<Name, number | null>> = places) {
  const unitId = (await run('create-unit', { number: ++number, name: `Unit ${number}` })).id as string
  await run('save-step', {
    unitId,
    step: 'identify',
    version: 0,
    data: { decision: { family: 'RV32', reason: 'read on the chip itself' } },
  })
  const set = []
  for (const name of names) {
    const bytes = files[name]
    const kept = await keepFile(db, { kind: 'image', name, unitId: null, read: null, tag: null }, bytes)
    if (!kept.ok) throw new Error(kept.error.message)
    set.push({ fileId: kept.value.id, name, bytes: bytes.length, sha256: kept.value.sha256, offset: at[name] ?? null })
  }
  await run('save-step', { unitId, step: 'check', version: 0, data: { set } })
  return {
    unitId,
    set,
    merge: async () => runCommand(db, 'merge-set', { unitId, version: await heldVersion(db, unitId, 'check') }),
  }
}
const all = Object.keys(files) as Name[]

test('four files are made one, kept with where they came from, and chosen; undo gives the set back', async () => {
  const { unitId, merge } = await withSet(all)
  expect(codeOf(await merge())).toBe('ok')
  const view = await viewOf(unitId)
  expect(view.records.check.data).toMatchObject({ fileId: view.image?.id, offset: 0 })
  expect(view.image).toMatchObject({
    name: `unit${number}-4-files.bin`,
    origin: 'loader.bin at 0x0, table.bin at 0x8000, select.bin at 0xD000, curtain.bin at 0x10000',
  })
  const bytes = await readBlob(db, view.image?.sha256 ?? '')
  for (const name of all)
    expect(bytes.subarray(places[name], places[name] + files[name].length)).toEqual(new Uint8Array(files[name]))
  expect([...bytes.subarray(64, 96)].every((b) => b === 0xff)).toBe(true)
  await run('undo', { unitId })
  const back = (await viewOf(unitId)).records.check.data
  expect([back.fileId, back.set.length]).toEqual([null, 4])
})

test('a set with something against it is not made one file, and says what it is', async () => {
  const onTop = await withSet(all, { ...places, 'select.bin': 0x10000 })
  expect(codeOf(await onTop.merge())).toBe('overlap')
  expect(codeOf(await (await withSet(['table.bin', 'curtain.bin'])).merge())).toBe('boot-missing')
  const homeless = await withSet(all, { ...places, 'select.bin': null })
  expect(codeOf(await homeless.merge())).toBe('not-placed')
  expect((await viewOf(homeless.unitId)).records.check.data.fileId).toBeNull()
})

test('a set that another tab has changed is looked at again first', async () => {
  const { unitId, set } = await withSet(all)
  await run('save-step', { unitId, step: 'check', version: 1, data: { set: set.slice(1) } })
  expect(codeOf(await runCommand(db, 'merge-set', { unitId, version: 1 }))).toBe('stale')
})

test('judging stores nothing; a file that is gone is said', async () => {
  const { unitId, set } = await withSet(all)
  const view = await viewOf(unitId)
  const parts = set.map((p) => ({ fileId: p.fileId as string, offset: p.offset as number }))
  const judged = await judgeSetFor(db, view, parts)
  expect(judged).toMatchObject({ family: 'RV32', merged: { bytes: 0x10000 + files['curtain.bin'].length } })
  expect(judged).not.toHaveProperty('content')
  const gone = [...parts, { fileId: '00000000-0000-4000-8000-000000000000', offset: 0x20000 }]
  await expect(judgeSetFor(db, view, gone)).rejects.toMatchObject({ code: 'gone' })
})

test('one set merged from two tabs at once: one wins, the other is told, and one file is made', async () => {
  const { unitId, merge } = await withSet(all)
  const both = await Promise.all([merge(), merge()])
  expect(both.map(codeOf).sort()).toEqual(['ok', 'stale'])
  const won = both.find((r) => r.ok)
  expect((await viewOf(unitId)).image?.id).toBe(won?.ok && won.value.id)
})
