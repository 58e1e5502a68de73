import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { and, eq } from 'drizzle-orm'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { codeOf, freshDatabase, heldVersion, runner } from '../db/testing'
import { bundleById } from './bundle'
import { loadUnit } from './load'
import { unitPage } from './page'
import { rawRecord } from './records'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-records-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 300
const arrive = async () => (await run('create-unit', { number: ++number, name: `Unit ${number}` })).id as string
const viewOf = async (id: string) => {
  const view = await loadUnit(db, id, new Date())
  if (!view) throw new Error('no such unit')
  return view
}

describe('saving fields of a record', () => {
  test('leaves the fields alone that were not sent', async () => {
    const unitId = await arrive()
    const first = await run('save-step', {
      unitId,
      step: 'pads',
      version: 0,
      data: { note: 'by the edge', pitchMm: 2 },
    })
    await run('save-step', { unitId, step: 'pads', version: first.version, data: { bootBy: 'pad' } })
    expect((await viewOf(unitId)).records.pads.data).toMatchObject({ note: 'by the edge', pitchMm: 2, bootBy: 'pad' })
  })
  test('a list is rows: one cell typed writes one row, a shorter list strikes what is gone', async () => {
    const unitId = await arrive()
    const readings = [{ volts: 3.3 }, { volts: 0 }, { cont_gnd: true }]
    let { version } = await run('save-step', { unitId, step: 'pads', version: 0, data: { readings } })
    const rows = () => db.select().from(schema.stepSeries).where(eq(schema.stepSeries.unitId, unitId))
    const before = await rows()
    const typed = [{ volts: 3.3 }, { volts: 0.1 }, { cont_gnd: true }]
    version = (await run('save-step', { unitId, step: 'pads', version, data: { readings: typed } })).version
    const after = await rows()
    expect(after.filter((r) => r.version > 1).map((r) => r.key)).toEqual(['1'])
    expect(after).toHaveLength(before.length)
    await run('save-step', { unitId, step: 'pads', version, data: { readings: typed.slice(0, 1) } })
    expect((await rows()).filter((r) => r.struckAt === null)).toHaveLength(1)
    expect((await viewOf(unitId)).records.pads.data.readings).toEqual([{ volts: 3.3 }])
  })
  test('a long text is a blob: the same text of two units is kept once', async () => {
    const log = 'ets boot text\r\n'.repeat(60_000)
    const [one, two] = [await arrive(), await arrive()]
    for (const unitId of [one, two]) await run('save-step', { unitId, step: 'start', version: 0, data: { log } })
    const texts = await db.select().from(schema.stepText)
    expect(new Set(texts.filter((t) => [one, two].includes(t.unitId)).map((t) => t.sha256)).size).toBe(1)
    expect((await viewOf(two)).records.start.data.log).toBe(log)
    const [row] = await db.select().from(schema.stepRecord).where(eq(schema.stepRecord.unitId, one))
    expect(JSON.stringify(row?.data)).not.toContain('ets')
  })
  test('the page of another step gets what the log says, not the log', async () => {
    const unitId = await arrive()
    const log = `\r\n ets Jan  8 2013,rst cause:1, boot mode:(3,6)\r\n${'x'.repeat(9000)}\r\n`
    await run('save-step', { unitId, step: 'start', version: 0, data: { log } })
    const away = await unitPage(db, number, 'wire')
    expect([away?.view.records.start.data.log, away?.view.boots?.start?.mode]).toEqual(['', 'flash'])
    expect((await unitPage(db, number, 'start'))?.view.records.start.data.log).toBe(log)
  })
  test.each<[string, unknown, string]>([
    ['NUL in a boot log', { log: 'boot\u0000text' }, '/data/log'],
    ['half a character', { log: 'boot \ud83d text' }, '/data/log'],
  ])('%s is refused with its place, and nothing is stored', async (_, data, path) => {
    const unitId = await arrive()
    const result = await runCommand(db, 'save-step', { unitId, step: 'start', version: 0, data })
    expect(result).toMatchObject({ ok: false, error: { code: 'input', faults: [{ path }] } })
    expect(await heldVersion(db, unitId, 'start')).toBe(0)
  })
  test('nesting that nobody types is refused', async () => {
    let deep: unknown = 1
    for (let i = 0; i < 500; i++) deep = [deep]
    const unitId = await arrive()
    const result = await runCommand(db, 'save-step', { unitId, step: 'open', version: 0, data: { parts: deep } })
    expect(codeOf(result)).toBe('input')
  })
})

describe('versions', () => {
  test('the loser of a race gets the record that won, whole', async () => {
    const unitId = await arrive()
    const both = await Promise.all(
      ['left', 'right'].map((note) =>
        runCommand(db, 'save-step', { unitId, step: 'wire', version: 0, data: { log: note } }),
      ),
    )
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    const lost = both.find((r) => !r.ok)
    const kept = (await viewOf(unitId)).records.wire
    expect(lost && !lost.ok && lost.error).toMatchObject({
      code: 'stale',
      current: { version: 1, data: { log: kept.data.log } },
    })
  })
  test('Done is refused when the record was saved since it was on screen', async () => {
    const unitId = await arrive()
    const { id: boardId } = await run('create-board', { maker: 'Harkle', product: `Done ${number}`, mains: false })
    await run('edit-unit', { unitId, version: 1, boardId })
    const data = { route: 'built', triedAsSold: 'works', load: 'lamp' }
    const { version } = await run('save-step', { unitId, step: 'arrive', version: 0, data })
    await run('save-step', { unitId, step: 'arrive', version, data: { note: 'from another tab' } })
    expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'arrive', version }))).toBe('stale')
    expect((await viewOf(unitId)).records.arrive.done).toBe(null)
    await run('finish-step', { unitId, step: 'arrive', version: (version as number) + 1 })
    expect((await viewOf(unitId)).records.arrive.done).not.toBe(null)
    expect(codeOf(await runCommand(db, 'reopen-step', { unitId, step: 'arrive', version }))).toBe('stale')
  })
  test('a save while another finishes the step: one after the other, and done never stands over an emptied record', async () => {
    const unitId = await arrive()
    const { id: boardId } = await run('create-board', { maker: 'Harkle', product: `Race ${number}`, mains: false })
    await run('edit-unit', { unitId, version: 1, boardId })
    const data = { route: 'built', triedAsSold: 'works', load: 'lamp' }
    const { version } = await run('save-step', { unitId, step: 'arrive', version: 0, data })
    const [finished, saved] = await Promise.all([
      runCommand(db, 'finish-step', { unitId, step: 'arrive', version }),
      runCommand(db, 'save-step', { unitId, step: 'arrive', version, data: { route: null } }),
    ])
    expect([codeOf(finished), codeOf(saved)].filter((c) => c === 'ok')).toHaveLength(1)
    const { done, data: now } = (await viewOf(unitId)).records.arrive
    expect(done === null || now.route === 'built').toBe(true)
  })
})

describe('a record that this version cannot read', () => {
  const spoil = async (shape = 1) => {
    const unitId = await arrive()
    await run('save-step', { unitId, step: 'join', version: 0, data: { address: '192.168.71.5' } })
    await db
      .update(schema.stepRecord)
      .set({ data: { address: 17, from: 'a later version' }, shape })
      .where(and(eq(schema.stepRecord.unitId, unitId), eq(schema.stepRecord.step, 'join')))
    return unitId
  }
  test('is said with its place; the unit and its other steps are there', async () => {
    const unitId = await spoil()
    const view = await viewOf(unitId)
    expect(view.records.join).toMatchObject({ unreadable: { where: '/address' }, done: null })
    expect(await unitPage(db, view.number, 'join')).not.toBe(null)
  })
  test('of a newer shape is not guessed at', async () => {
    const view = await viewOf(await spoil(9))
    expect(view.records.join.unreadable?.what).toMatch(/shape 9/)
  })
  test('is never written over, and can be saved as it is', async () => {
    const unitId = await spoil()
    const refused = await runCommand(db, 'save-step', { unitId, step: 'join', version: 1, data: { address: 'x' } })
    expect(codeOf(refused)).toBe('unreadable')
    expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'join' }))).not.toBe('ok')
    const bundled = await bundleById(db, unitId)
    expect(bundled && rawRecord(bundled.bundle, 'join')?.data).toMatchObject({ address: 17, from: 'a later version' })
  })
  test('is put aside when a person begins the step anew; undo brings it back', async () => {
    const unitId = await spoil()
    await run('begin-anew', { unitId, step: 'join', version: 1 })
    expect((await viewOf(unitId)).records.join).toMatchObject({ version: 0, data: { address: '' } })
    const [aside] = await db.select().from(schema.asideRecord).where(eq(schema.asideRecord.unitId, unitId))
    expect(aside).toMatchObject({ step: 'join', data: { address: 17 } })
    await run('undo', { unitId })
    expect((await viewOf(unitId)).records.join.unreadable).toBeDefined()
  })
  test('one that can be read is not put aside', async () => {
    const unitId = await arrive()
    await run('save-step', { unitId, step: 'join', version: 0, data: { address: '192.168.71.5' } })
    expect(codeOf(await runCommand(db, 'begin-anew', { unitId, step: 'join', version: 1 }))).toBe('readable')
  })
  test('a stored text that does not fit its hash makes its record unreadable, not the unit', async () => {
    const unitId = await arrive()
    await run('save-step', { unitId, step: 'start', version: 0, data: { log: `text of ${unitId}` } })
    const [text] = await db.select().from(schema.stepText).where(eq(schema.stepText.unitId, unitId))
    await db
      .update(schema.blobChunk)
      .set({ data: Buffer.from('other') })
      .where(eq(schema.blobChunk.sha256, text?.sha256 as string))
    expect((await viewOf(unitId)).records.start.unreadable).toEqual({
      where: '/log',
      what: 'its stored text is damaged',
    })
  })
})

test('an id of something that is none breaks nothing: it finds nothing', async () => {
  const unitId = await arrive()
  await run('save-step', { unitId, step: 'wire', version: 0, data: { adapterId: 'the blue one' } })
  await run('save-step', { unitId, step: 'check', version: 0, data: { fileId: "'; drop table unit; --" } })
  const view = await viewOf(unitId)
  expect([view.adapter, view.image]).toEqual([null, null])
})
