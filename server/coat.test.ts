import { mkdtempSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { conditions } from '@fresh-coat/core/steps/backup/conditions'
import { backupOf, readOnceForGood } from '@fresh-coat/core/steps/backup/facts'
import { preflightOf } from '@fresh-coat/core/steps/check/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { eq } from 'drizzle-orm'
import { lx106Image, lx106Stock } from '../demo/binaries'
import { type CommandName, runCommand } from './commands'
import type { Db } from './db/client'
import type { CommandResult } from './db/fault'
import { recentEvents } from './db/log'
import * as schema from './db/schema'
import { freshDatabase, unplug } from './db/testing'
import { loadAll } from './db/testing-reads'
import { keepBlob, NotHeld, readBlobAgain } from './files/blobs'
import { takeIn } from './files/incoming'
import { keepFile } from './files/keep'
import { bytesOfFile, cover, searchBytes } from './files/private-bytes'
import { loadUnit } from './units/load'
import { unitPage } from './units/page'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-coat-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = async (command: CommandName, input: Record<string, unknown>) => {
  const result = await runCommand(db, command, input)
  if (!result.ok) throw new Error(`${result.error.code}: ${result.error.message}`)
  return result.value
}
const codeOf = (result: CommandResult) => (result.ok ? 'ok' : result.error.code)
const keep = async (kind: 'image' | 'dump', name: string, bytes: Uint8Array, unitId: string | null = null) => {
  const kept = await keepFile(db, { kind, name, unitId, read: kind === 'dump' ? 1 : null, tag: null }, bytes)
  if (!kept.ok) throw new Error(kept.error.message)
  return kept.value.id as string
}

describe('a patched copy', () => {
  test('is a new file with a link to its source; the original stays; the same copy is not made twice', async () => {
    const source = await keep('image', 'plainsong-dio.bin', lx106Image('DIO', 41))
    const made = await run('patch-image', { fileId: source, mode: 'DOUT' })
    expect(made).toMatchObject({ name: 'plainsong-dout.bin', known: false })
    const images = (await loadAll(db)).images
    expect(images.find((f) => f.id === made.id)).toMatchObject({
      sourceId: source,
      origin: 'plainsong-dio.bin, mode DIO to DOUT',
    })
    expect(await bytesOfFile(db, source)).toMatchObject({ ok: true, bytes: { 2: 2 } })
    expect(await bytesOfFile(db, made.id as string)).toMatchObject({ ok: true, bytes: { 2: 3 } })
    expect(await run('patch-image', { fileId: source, mode: 'DOUT' })).toMatchObject({ id: made.id, known: true })
    await run('undo', { unitId: null })
    expect((await loadAll(db)).images.some((f) => f.id === made.id)).toBe(false)
  })
  test('of a file with faults is refused', async () => {
    const bytes = lx106Image('DIO', 42).slice()
    bytes[500] = (bytes[500] as number) ^ 1
    const bad = await keep('image', 'bad.bin', bytes)
    expect(codeOf(await runCommand(db, 'patch-image', { fileId: bad, mode: 'DOUT' }))).toBe('refuse-corrupt')
  })
})

describe('a read that stays on the disk of the person', () => {
  const stock = lx106Stock(31)
  const noted = async (number: number, keepIt: 'yes' | 'no') => {
    const { id } = await run('create-unit', { number, name: `On disk ${number}` })
    const result = await keepFile(
      db,
      { kind: 'dump', name: 'stock.bin', unitId: id as string, read: 1, tag: null, keep: keepIt },
      stock,
    )
    if (!result.ok) throw new Error(result.error.message)
    return { unitId: id as string, fileId: result.value.id as string }
  }
  const fileOfUnit = async (unitId: string) => (await loadAll(db)).units.find((u) => u.id === unitId)?.files[0]
  test('leaves hash, length and map here, and no bytes', async () => {
    const { unitId, fileId } = await noted(711, 'no')
    expect(await fileOfUnit(unitId)).toMatchObject({
      held: false,
      bytes: stock.length,
      inspection: { sectors: 256, private: true, secrets: { count: 2 } },
    })
    const [row] = await db.select().from(schema.file).where(eq(schema.file.id, fileId))
    const pieces = await db
      .select()
      .from(schema.blobChunk)
      .where(eq(schema.blobChunk.sha256, row?.sha256 as string))
    expect(pieces).toEqual([])
    const found = await bytesOfFile(db, fileId)
    expect(found.ok ? '' : await found.missing.json()).toMatchObject({
      error: { message: expect.stringMatching(/stayed on your disk/) },
    })
    expect(codeOf(await runCommand(db, 'reveal-bytes', { fileId, offset: 0, length: 16 }))).toBe('not-held')
  })
  test('can be kept later; what is kept once stays kept', async () => {
    const first = await noted(712, 'yes')
    expect(await bytesOfFile(db, first.fileId)).toMatchObject({ ok: true })
    const second = await noted(713, 'no')
    expect((await fileOfUnit(second.unitId))?.held).toBe(true)
    const found = await bytesOfFile(db, first.fileId)
    expect(found.ok && Buffer.from(found.bytes).equals(Buffer.from(stock))).toBe(true)
  })
})

describe('attempts', () => {
  const unitOf = async (id: string) => (await loadAll(db)).units.find((u) => u.id === id)
  test('a read counts whether it worked or not, apart from writes; a note is added, the row stays', async () => {
    const { id } = await run('create-unit', { number: 714, name: 'Read often' })
    const unitId = id as string
    const failed = { unitId, action: 'read', outcome: 'no-answer', minutes: 3, verify: 'none', verified: false }
    expect(codeOf(await runCommand(db, 'log-attempt', failed))).toBe('gate-open')
    await unplug(run, unitId)
    const logged = await run('log-attempt', { ...failed, message: 'nothing came' })
    await keep('dump', 'stock.bin', lx106Stock(32), unitId)
    const reads = (await unitOf(unitId))?.reads ?? []
    expect(reads.map((a) => a.outcome)).toEqual(['done', 'no-answer'])
    expect((await unitOf(unitId))?.attempts).toEqual([])
    await run('annotate-attempt', { attemptId: logged.id, text: 'The clip had slipped.' })
    await run('annotate-attempt', { attemptId: logged.id, text: 'It holds now.' })
    const after = (await unitOf(unitId))?.reads.find((a) => a.id === logged.id)
    expect(after).toMatchObject({ outcome: 'no-answer', message: 'nothing came', minutes: 3 })
    expect(after?.notes?.map((n) => n.text)).toEqual(['The clip had slipped.', 'It holds now.'])
    // Undo goes back one thing at a time: the two notes, the file with its attempt, and the failed read itself.
    for (const left of [1, 0]) {
      await run('undo', { unitId })
      expect((await unitOf(unitId))?.reads.find((a) => a.id === logged.id)?.notes ?? []).toHaveLength(left)
    }
    await run('undo', { unitId })
    expect((await unitOf(unitId))?.reads.map((a) => a.id)).toEqual([logged.id])
    await run('undo', { unitId })
    // Struck, not gone: both attempts are still told of, and the gate that logging cleared stays closed.
    const back = await unitOf(unitId)
    expect([back?.reads, back?.struck?.length]).toEqual([[], 2])
    expect(back?.gates.map((g) => g.gate)).toEqual(['discharged'])
  })
  test('what one unit tried teaches the others of its board, until it is taken back', async () => {
    const { id: boardId } = await run('create-board', { maker: 'Tolliver', product: 'Tried', mains: false })
    const { id: one } = await run('create-unit', { number: 716, name: 'Tried first', boardId })
    await run('create-unit', { number: 717, name: 'Learns', boardId })
    await unplug(run, one as string)
    const how = { minutes: 3, verify: 'none', verified: false, tool: 'a tool' }
    await run('log-attempt', { unitId: one, action: 'read', outcome: 'no-answer', message: 'nothing came', ...how })
    await keep('dump', 'stock.bin', lx106Stock(34), one as string)
    const learned = async (step: 'backup' | 'write') => (await unitPage(db, 717, step))?.view.board?.tried
    const tried = await learned('backup')
    expect(tried?.reads).toMatchObject({
      count: 2,
      last: { outcome: 'no-answer', unitNumber: 716, message: 'nothing came' },
    })
    expect(tried?.reads.tries).toBe(2)
    expect(tried?.writes.count).toBe(0)
    expect(await learned('write')).toEqual(tried)
    // A page that shows nothing of it does not ask for it.
    expect((await unitPage(db, 717, 'pins'))?.view.board?.tried).toBe(null)
    await run('undo', { unitId: one })
    expect((await learned('backup'))?.reads).toMatchObject({ count: 1, tries: null })
  })
  test('taking a read back takes its attempt back', async () => {
    const { id } = await run('create-unit', { number: 715, name: 'Taken back' })
    await keep('dump', 'stock.bin', lx106Stock(33), id as string)
    expect((await unitOf(id as string))?.reads).toHaveLength(1)
    await run('undo', { unitId: id })
    expect((await unitOf(id as string))?.reads).toHaveLength(0)
    expect((await unitOf(id as string))?.files).toHaveLength(0)
  })
})

describe('looking into a file piece by piece', () => {
  test('what was read stays at hand for two files, and a file that was not held is asked for again', async () => {
    const files = await Promise.all([34, 35, 36].map((seed) => keepBlob(db, lx106Stock(seed))))
    const [first, second, third] = files as [string, string, string]
    const once = await readBlobAgain(db, first)
    expect(await readBlobAgain(db, first)).toBe(once)
    await readBlobAgain(db, second)
    await readBlobAgain(db, third)
    const anew = await readBlobAgain(db, first)
    expect(anew).not.toBe(once)
    expect(Buffer.from(anew).equals(Buffer.from(once))).toBe(true)
    const elsewhere = lx106Stock(37)
    const sha = await keepBlob(db, elsewhere, { held: false })
    await expect(readBlobAgain(db, sha)).rejects.toBeInstanceOf(NotHeld)
    await keepBlob(db, elsewhere)
    expect(Buffer.from(await readBlobAgain(db, sha)).equals(Buffer.from(elsewhere))).toBe(true)
  })
})

describe('private bytes', () => {
  test('keys are covered wherever the window begins, and showing them leaves an event', async () => {
    const { id } = await run('create-unit', { number: 700, name: 'Private' })
    const stock = lx106Stock(9)
    const file = await keep('dump', 'stock.bin', stock, id as string)
    const whole = Buffer.from(stock).toString('latin1')
    const at = whole.search(/"pass(word)?":"/)
    expect(at).toBeGreaterThan(0)
    for (const from of [at - 40, at, at + 6]) {
      const piece = cover(stock, from, 64)
      expect(piece.covered.length).toBeGreaterThan(0)
      const text = Buffer.from(piece.hex, 'hex').toString('latin1')
      const value = /"pass(?:word)?":"([^"]+)"/.exec(whole)?.[1] as string
      expect(text).not.toContain(value)
    }
    const shown = await run('reveal-bytes', { fileId: file, offset: at, length: 64 })
    expect(Buffer.from(shown.hex as string, 'hex').toString('latin1')).toContain('pass')
    expect((await recentEvents(db, 3, id as string))[0]?.sentence).toMatch(/shown unmasked$/)
  })
  test('a search gives places, at most 200, of text or of bytes', () => {
    const bytes = Buffer.from('abcabcabc')
    expect(searchBytes(bytes, 'abc')).toEqual({ offsets: [0, 3, 6], more: false })
    expect(searchBytes(bytes, '0x6263')).toEqual({ offsets: [1, 4, 7], more: false })
    expect(searchBytes(Buffer.alloc(1000, 1), '0x01')?.more).toBe(true)
    expect(searchBytes(bytes, '')).toBe(null)
    expect(searchBytes(bytes, 'x'.repeat(300))).toBe(null)
  })
})

describe('what is kept about an image and a firmware', () => {
  test('where it came from; two people at once are both heard', async () => {
    const id = await keep('image', 'noted.bin', lx106Image('DOUT', 43))
    const note = (version: number) =>
      runCommand(db, 'describe-file', {
        fileId: id,
        version,
        origin: 'a friend',
        firmware: 'Plainsong',
        release: '9.4.1/full',
      })
    expect(codeOf(await note(1))).toBe('ok')
    expect(codeOf(await note(1))).toBe('stale')
    expect((await loadAll(db)).images.find((f) => f.id === id)).toMatchObject({
      origin: 'a friend',
      release: '9.4.1/full',
    })
  })
  test('a firmware of one’s own; a release that is none is refused with its place', async () => {
    const release = { version: '1.0', build: 'full', family: 'LX6', bytes: 900_000 }
    const data = { families: ['LX6'], setupAddress: '', about: '', releases: [release] }
    await run('add-profile', { name: 'Footlight', data })
    expect((await loadAll(db)).profiles.find((p) => p.name === 'Footlight')?.data.releases).toHaveLength(1)
    const bad = await runCommand(db, 'add-profile', {
      name: 'Bad',
      data: { ...data, releases: [{ ...release, version: 'one' }] },
    })
    expect(bad).toMatchObject({ ok: false, error: { code: 'input', faults: [{ path: '/data/releases/0/version' }] } })
  })
})

describe('uploads on their way in', () => {
  const stream = (...pieces: number[]) =>
    new ReadableStream<Uint8Array>({
      start(controller) {
        for (const n of pieces) controller.enqueue(new Uint8Array(n).fill(7))
        controller.close()
      },
    })
  const folder = () => readdirSync(join(process.env.FRESH_COAT_DATA as string, 'incoming'))
  test('whole, too long, cut off; nothing is left on disk', async () => {
    const length = async (b: Uint8Array) => b.length
    expect(await takeIn(stream(10, 20), 100, 30, length)).toEqual({ state: 'whole', value: 30 })
    expect(await takeIn(stream(60, 60), 100, null, length)).toEqual({ state: 'too-long' })
    expect(await takeIn(stream(10), 100, 30, length)).toEqual({ state: 'cut-off' })
    await expect(takeIn(stream(10), 100, null, () => Promise.reject(new Error('database')))).rejects.toThrow('database')
    expect(folder()).toEqual([])
  })
  test('ten at once are looked at two at a time', async () => {
    let now = 0
    let most = 0
    const look = async () => {
      most = Math.max(most, ++now)
      await new Promise((r) => setTimeout(r, 5))
      now--
      return 1
    }
    const all = await Promise.all(Array.from({ length: 10 }, () => takeIn(stream(5), 100, 5, look)))
    expect([most, all.length]).toEqual([2, 10])
  })
})

describe('read and written in one run', () => {
  test('one read is then enough to go on, is never called proven, and a second is refused: it would be of another firmware', async () => {
    const unitId = (await run('create-unit', { number: 871, name: 'In one run' })).id as string
    const stock = lx106Stock(87)
    await keep('dump', 'one.bin', stock, unitId)
    const state = async () => {
      const shop = await loadAll(db)
      const unit = shop.units.find((u) => u.id === unitId)
      if (!unit) throw new Error('gone')
      return [backupOf(unit).state, readOnceForGood(unit), conditions(unit).map((c) => c.met)]
    }
    expect(await state()).toEqual(['single', false, [false]])
    await run('save-step', { unitId, step: 'backup', version: 0, data: { oneRun: true } })
    expect(await state()).toEqual(['single', true, [true]])
    const again = () => keepFile(db, { kind: 'dump', name: 'two.bin', unitId, read: 2, tag: null }, stock)
    expect(codeOf(await again())).toBe('overwritten')
    expect(await state()).toEqual(['single', true, [true]])
    // It was not so after all: then a second read proves the first.
    await run('save-step', { unitId, step: 'backup', version: 1, data: { oneRun: false } })
    expect(codeOf(await again())).toBe('ok')
    expect(await state()).toEqual(['verified', false, [true]])
  })
  test('a read that is no whole chip is not enough', async () => {
    const unitId = (await run('create-unit', { number: 872, name: 'Half a chip' })).id as string
    await run('save-step', { unitId, step: 'backup', version: 0, data: { oneRun: true, flashId: '68 40 16' } })
    await keep('dump', 'half.bin', lx106Stock(88), unitId)
    const unit = (await loadAll(db)).units.find((u) => u.id === unitId)
    expect(unit && conditions(unit).map((c) => c.met)).toEqual([false])
  })
})

describe('an own build', () => {
  test('that is for one unit is stopped at another, and what an update would drop is said', async () => {
    const arrive = async (number: number) => {
      const unitId = (await run('create-unit', { number, name: `Own ${number}` })).id as string
      const decision = { family: 'LX106', reason: 'read on the chip itself' }
      await run('save-step', { unitId, step: 'identify', version: 0, data: { decision } })
      return unitId
    }
    const [mine, other] = [await arrive(881), await arrive(882)]
    const running = await keep('image', 'own-a.bin', lx106Image('DOUT', 881))
    const offered = await keep('image', 'own-b.bin', lx106Image('DOUT', 882))
    const about = (options: string[], forUnit: number | null) => ({
      by: 'own',
      source: 'lantern/plug',
      state: 'a1',
      options,
      constants: forUnit === null ? [] : [{ name: 'BASE', names: 'topic' }],
      forUnit,
    })
    await run('describe-build', { fileId: running, version: 1, build: about(['curtain', 'meter'], null) })
    await run('describe-build', { fileId: offered, version: 1, build: about(['meter'], 881) })
    expect(codeOf(await runCommand(db, 'describe-build', { fileId: offered, version: 1, build: about([], 1) }))).toBe(
      'stale',
    )
    const said = async (unitId: string, fileId: string) => {
      await run('save-step', { unitId, step: 'check', version: 0, data: { fileId } })
      const view = await loadUnit(db, unitId, new Date())
      return preflightOf(view as UnitView)?.findings.map((f) => f.code) ?? []
    }
    expect(await said(other, offered)).toContain('build-for-other')
    const [row] = await db.select().from(schema.file).where(eq(schema.file.id, running))
    await db.insert(schema.attempt).values({
      unitId: mine,
      data: {
        outcome: 'done',
        sha256: row?.sha256,
        verify: 'digest',
        verified: true,
        minutes: 3,
        fileName: 'own-a.bin',
      },
    })
    const findings = await said(mine, offered)
    expect(findings).toContain('update-drops')
    expect(findings).not.toContain('build-for-other')
  })
})
