import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { noise } from '@fresh-coat/core/image/build'
import { eq } from 'drizzle-orm'
import { type CommandName, commandNames, isCommand, runCommand } from './commands'
import type { Db } from './db/client'
import * as schema from './db/schema'
import { codeOf, freshDatabase, heldVersion, runner, unplug } from './db/testing'
import { keepFile } from './files/keep'
import { loadUnit } from './units/load'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-commands-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
const nobody = '00000000-0000-4000-8000-000000000000'
const eventCount = () => db.$count(schema.event)

describe('every command', () => {
  test.each(commandNames)('%s refuses what is no input, and nothing is changed', async (name) => {
    if (name === 'undo') return
    const before = await eventCount()
    for (const input of [null, 7, 'x', [], { unitId: 5, boardId: [], fileId: {}, name: '' }])
      expect(codeOf(await runCommand(db, name, input))).toBe('input')
    expect(await eventCount()).toBe(before)
  })
  test.each<[CommandName, object]>([
    ['edit-unit', { unitId: nobody, version: 1, name: 'x' }],
    ['another-unit', { unitId: nobody, number: 9, name: 'x' }],
    ['take-in-hand', { unitId: nobody }],
    ['put-back', { unitId: nobody }],
    ['save-step', { unitId: nobody, step: 'pads', version: 0, data: {} }],
    ['begin-anew', { unitId: nobody, step: 'pads', version: 0 }],
    ['finish-step', { unitId: nobody, step: 'pads' }],
    ['reopen-step', { unitId: nobody, step: 'pads' }],
    ['add-evidence', { unitId: nobody, kind: 'crystal', value: '26' }],
    ['confirm-gate', { unitId: nobody, gate: 'mains-off' }],
    ['log-attempt', { unitId: nobody, outcome: 'done', minutes: 1, verify: 'none', verified: false }],
    ['open-trouble', { unitId: nobody, step: 'write', symptom: 'no_answer' }],
    ['save-calibration', { unitId: nobody }],
    ['add-hub-test', { unitId: nobody, direction: 'hub to unit', ok: true, seen: 'x' }],
    ['keep-secret', { unitId: nobody, name: 'x', value: 'y' }],
  ])('%s for a unit that is not there: said as that', async (name, input) => {
    expect(codeOf(await runCommand(db, name, input))).toBe('no-unit')
  })
  test.each<[CommandName, object]>([
    ['edit-board', { boardId: nobody, version: 1, maker: 'x' }],
    ['annotate-attempt', { attemptId: nobody, text: 'x' }],
    ['answer-trouble', { troubleId: nobody, test: 'swap_helps', yes: true }],
    ['close-trouble', { troubleId: nobody, cause: 'other', note: 'five letters' }],
    ['patch-image', { fileId: nobody, mode: 'DOUT' }],
    ['describe-file', { fileId: nobody, version: 1, origin: '', firmware: '', release: '' }],
    ['reveal-bytes', { fileId: nobody, offset: 0, length: 16 }],
    ['put-file-aside', { fileId: nobody }],
    ['tag-photo', { fileId: nobody, tag: 'board_top' }],
    ['edit-kit', { kitId: nobody, version: 1, name: 'x', data: {} }],
    ['note-line', { kitId: nobody, measured: { latencyMs: 1, bestRate: 115_200, family: 'LX6' } }],
    [
      'edit-profile',
      { profileId: nobody, version: 1, name: 'x', data: { families: ['LX6'], setupAddress: '', about: '' } },
    ],
    ['reveal-secret', { secretId: nobody }],
  ])('%s of something that is not there any more', async (name, input) => {
    expect(codeOf(await runCommand(db, name, input))).toBe('gone')
  })
  test('a name that only looks like one is none', () => {
    expect(['create-unit', 'constructor', '__proto__', 'toString', 'undo'].map(isCommand)).toEqual([
      true,
      false,
      false,
      false,
      true,
    ])
  })
})

describe('units and boards', () => {
  test('a number that is taken is named with who has it, at creation and at renumbering', async () => {
    await run('create-unit', { number: 11, name: 'First' })
    const { id } = await run('create-unit', { number: 12, name: 'Second' })
    const refused = await runCommand(db, 'edit-unit', { unitId: id, version: 1, number: 11 })
    expect(refused).toMatchObject({
      ok: false,
      error: { code: 'number-taken', message: expect.stringMatching(/11.*First/) },
    })
    await run('edit-unit', { unitId: id, version: 1, number: 12, place: 'attic' })
  })
  test('editing one field of a board leaves the others alone', async () => {
    const { id: boardId } = await run('create-board', {
      maker: 'Tolliver',
      product: 'T1',
      hasMeter: true,
      inPackageFlash: true,
      note: 'n',
    })
    await run('edit-board', { boardId, version: 1, fixedWiring: true })
    const [row] = await db
      .select()
      .from(schema.board)
      .where(eq(schema.board.id, boardId as string))
    expect(row).toMatchObject({ hasMeter: true, inPackageFlash: true, note: 'n', fixedWiring: true, mains: true })
    expect(codeOf(await runCommand(db, 'edit-board', { boardId, version: 1, note: 'late' }))).toBe('stale')
  })
  test('the same board twice is refused; after it was undone it can be made again', async () => {
    const board = { maker: 'Tolliver', product: 'Twice', mains: false }
    await run('create-board', board)
    expect(codeOf(await runCommand(db, 'create-board', board))).toBe('board-exists')
    await run('undo', { unitId: null })
    expect(codeOf(await runCommand(db, 'create-board', board))).toBe('ok')
  })
  test('a unit that gets another board takes its attempts and troubles along', async () => {
    const { id: unitId } = await run('create-unit', { number: 13, name: 'Mover' })
    const { id: boardId } = await run('create-board', { maker: 'Tolliver', product: 'Goal', mains: false })
    await run('open-trouble', { unitId, step: 'write', symptom: 'no_answer' })
    await run('edit-unit', { unitId, version: 1, boardId })
    const [row] = await db
      .select()
      .from(schema.trouble)
      .where(eq(schema.trouble.unitId, unitId as string))
    expect(row?.boardId).toBe(boardId)
  })
  test('another unit begins with the way of the one before, not with its findings', async () => {
    const { id: boardId } = await run('create-board', { maker: 'Tolliver', product: 'Again', mains: false })
    const { id: unitId } = await run('create-unit', { number: 14, name: 'Heater A', boardId })
    await run('save-step', {
      unitId,
      step: 'arrive',
      version: 0,
      data: { route: 'built', triedAsSold: 'faulty', loadWatts: 60 },
    })
    const { id } = await run('another-unit', { unitId, number: 15, name: 'Heater B' })
    const view = await loadUnit(db, id as string, new Date())
    expect(view?.records.arrive.data).toMatchObject({ route: 'built', loadWatts: 60, triedAsSold: null })
  })
})

describe('evidence, trouble and attempts', () => {
  test('evidence of one kind replaces what was said before; nonsense is refused', async () => {
    const { id: unitId } = await run('create-unit', { number: 21, name: 'Evident' })
    await run('add-evidence', { unitId, kind: 'crystal', value: '26' })
    await run('add-evidence', { unitId, kind: 'crystal', value: '40' })
    expect((await loadUnit(db, unitId as string, new Date()))?.records.identify.data.evidence).toEqual([
      { kind: 'crystal', value: '40' },
    ])
    expect(codeOf(await runCommand(db, 'add-evidence', { unitId, kind: 'crystal', value: 'blue' }))).toBe('input')
  })
  test('a search for a cause: answered, taken back, closed once', async () => {
    const { id: unitId } = await run('create-unit', { number: 22, name: 'Troubled' })
    const { id: troubleId } = await run('open-trouble', { unitId, step: 'write', symptom: 'no_answer' })
    await run('answer-trouble', { troubleId, test: 'swap_helps', yes: true })
    await run('answer-trouble', { troubleId, test: 'swap_helps', yes: null })
    expect((await loadUnit(db, unitId as string, new Date()))?.troubles[0]?.answers).toEqual([])
    expect(codeOf(await runCommand(db, 'answer-trouble', { troubleId, test: 'no such test', yes: true }))).toBe(
      'unknown-test',
    )
    expect(codeOf(await runCommand(db, 'close-trouble', { troubleId, cause: 'witchcraft' }))).toBe('unknown-cause')
    expect(codeOf(await runCommand(db, 'close-trouble', { troubleId, cause: 'other', note: 'no' }))).toBe('no-note')
    await run('close-trouble', { troubleId, cause: 'txrx_swapped' })
    expect(codeOf(await runCommand(db, 'answer-trouble', { troubleId, test: 'swap_helps', yes: true }))).toBe('closed')
  })
  test('an attempt says what was read or written and over which wiring, and clears the gate', async () => {
    const { id: unitId } = await run('create-unit', { number: 23, name: 'Tried' })
    await unplug(run, unitId)
    const log = { unitId, outcome: 'done', minutes: 4, verify: 'none', verified: true }
    expect(codeOf(await runCommand(db, 'log-attempt', log))).toBe('not-verified')
    expect(codeOf(await runCommand(db, 'log-attempt', { ...log, verified: false }))).toBe('no-image')
    await run('log-attempt', { ...log, action: 'read', verified: false, baud: 115200 })
    const view = await loadUnit(db, unitId as string, new Date())
    expect(view?.reads).toMatchObject([{ outcome: 'done', baud: 115200, power: 'adapter3v3', by: 'bench' }])
    expect(view?.gates.map((g) => g.gate)).toEqual(['discharged'])
  })
})

describe('kit, firmware and settings', () => {
  test('kit of a kind takes the fields of its kind', async () => {
    const { id: kitId } = await run('add-kit', {
      kind: 'instrument',
      name: 'Meter',
      data: { gainPct: 0.5, digits: 2, resolution: 0.1 },
    })
    expect(codeOf(await runCommand(db, 'edit-kit', { kitId, version: 1, name: 'Meter', data: { watts: 5 } }))).toBe(
      'input',
    )
    await run('edit-kit', {
      kitId,
      version: 1,
      name: 'Meter, checked',
      data: { gainPct: 1, digits: 2, resolution: 0.1 },
    })
    expect(
      codeOf(
        await runCommand(db, 'edit-kit', {
          kitId,
          version: 1,
          name: 'late',
          data: { gainPct: 1, digits: 2, resolution: 0.1 },
        }),
      ),
    ).toBe('stale')
  })
  test('a calibration needs a reference meter and points that can be fitted', async () => {
    const { id: unitId } = await run('create-unit', { number: 31, name: 'Metered' })
    await run('save-step', { unitId, step: 'meter', version: 0, data: { instrumentId: null } })
    expect(codeOf(await runCommand(db, 'save-calibration', { unitId }))).toBe('no-instrument')
    const { id: instrumentId } = await run('add-kit', {
      kind: 'instrument',
      name: 'Reference',
      data: { gainPct: 0.5, digits: 2, resolution: 0.1 },
    })
    const version = await heldVersion(db, unitId as string, 'meter')
    const saved = await run('save-step', { unitId, step: 'meter', version, data: { instrumentId } })
    expect(codeOf(await runCommand(db, 'save-calibration', { unitId }))).toBe('no-fit')
    const points = [60, 500, 1000, 1900].map((w, i) => ({
      id: `p${i}`,
      indicated: w * 0.96,
      reference: w,
      role: 'fit',
    }))
    await run('save-step', {
      unitId,
      step: 'meter',
      version: saved.version,
      data: { points, zeros: [0, 0, 0, 0, 0], warm: true },
    })
    await run('save-calibration', { unitId })
    const [last] = (await loadUnit(db, unitId as string, new Date()))?.calibrations ?? []
    expect(last?.gain).toBeCloseTo(1 / 0.96, 3)
  })
  test('chances before any evidence: entered, then as shipped, and undone', async () => {
    await run('set-prior', { prior: { LX6: 0.6, LX106: 0.4 } })
    expect(codeOf(await runCommand(db, 'set-prior', { prior: { LX6: 4 } }))).toBe('input')
    await run('set-prior', { prior: null })
    await run('undo', { unitId: null })
    const [row] = await db.select().from(schema.setting).where(eq(schema.setting.key, 'prior'))
    expect(row).toMatchObject({ value: { LX6: 0.6, LX106: 0.4 }, struckAt: null })
  })
  test('a hub test needs a hub', async () => {
    const { id: unitId } = await run('create-unit', { number: 32, name: 'Tested' })
    const seen = { unitId, direction: 'hub to unit', ok: true, seen: 'the load went on' }
    expect(codeOf(await runCommand(db, 'add-hub-test', seen))).toBe('no-hub')
    const { id: hubId } = await run('add-hub', { name: 'Mantel' })
    await run('save-step', { unitId, step: 'hub', version: 0, data: { hubId } })
    await run('add-hub-test', seen)
    expect((await loadUnit(db, unitId as string, new Date()))?.hubTests).toMatchObject([{ hub: 'Mantel', ok: true }])
  })
})

describe('files', () => {
  test('put aside is out of the lists, and the unit that chose it still knows it', async () => {
    const kept = await keepFile(
      db,
      { kind: 'image', name: 'a.bin', unitId: null, read: null, tag: null },
      noise(8192, 4),
    )
    const fileId = kept.ok ? (kept.value.id as string) : ''
    const { id: unitId } = await run('create-unit', { number: 41, name: 'Chooser' })
    await run('save-step', { unitId, step: 'check', version: 0, data: { fileId } })
    await run('put-file-aside', { fileId })
    expect((await loadUnit(db, unitId as string, new Date()))?.image?.name).toBe('a.bin')
  })
  test('a read of a unit that is not there is refused before anything is stored', async () => {
    const before = await db.$count(schema.blob)
    const kept = await keepFile(db, { kind: 'dump', name: 'a.bin', unitId: nobody, read: 1, tag: null }, noise(4096, 5))
    expect([codeOf(kept), await db.$count(schema.blob)]).toEqual(['no-unit', before])
  })
})
