import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { noise } from '@fresh-coat/core/image/build'
import { desc, eq, sql } from 'drizzle-orm'
import { type CommandName, runCommand } from './commands'
import type { Db } from './db/client'
import type { CommandResult } from './db/fault'
import { foreignOrigin } from './db/guard'
import { recentEvents } from './db/log'
import { migrateDatabase } from './db/migrate'
import * as schema from './db/schema'
import { freshDatabase } from './db/testing'
import { loadAll } from './db/testing-reads'
import { DamagedBlob, keepBlob, readBlob, sha256Of } from './files/blobs'
import { keepFile, safeFileName } from './files/keep'
import { shipProfiles } from './kit/profiles'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-server-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())

let next = 100
const run = async (command: CommandName, input: Record<string, unknown>) => {
  const result = await runCommand(db, command, input)
  if (!result.ok) throw new Error(`${result.error.code}: ${result.error.message}`)
  return result.value
}
const refused = (result: CommandResult) => (result.ok ? null : result.error)
const arrive = async (name = 'Lamp') => {
  const number = next++
  const { id } = await run('create-unit', { number, name })
  return { id: id as string, number }
}
const viewOf = async (id: string) => {
  const found = (await loadAll(db)).units.find((u) => u.id === id)
  if (!found) throw new Error('no such unit')
  return found
}
const save = async (unitId: string, step: 'pads' | 'arrive' | 'join', data: object, minutesLater = 0) => {
  const { version } = (await viewOf(unitId)).records[step]
  const at = new Date(Date.now() + minutesLater * 60_000)
  const result = await runCommand(db, 'save-step', { unitId, step, version, data }, at)
  if (!result.ok) throw new Error(`${result.error.code}: ${result.error.message}`)
  return result.value
}

describe('a change and its event', () => {
  test('happen together', async () => {
    const { id, number } = await arrive('Ticket lamp')
    expect((await recentEvents(db, 3, id)).map((e) => e.sentence)).toEqual([`${number} arrived: Ticket lamp`])
  })
  test('or not at all: a refused command leaves no event', async () => {
    const { id, number } = await arrive()
    const before = await recentEvents(db, 50)
    expect(refused(await runCommand(db, 'create-unit', { number, name: 'Again' }))?.code).toBe('number-taken')
    expect(refused(await runCommand(db, 'finish-step', { unitId: id, step: 'arrive' }))?.code).toBe('not-yet')
    expect(await recentEvents(db, 50)).toEqual(before)
  })
  test('two people at once on one number: one arrives, the other is told', async () => {
    const number = next++
    const both = await Promise.all(['left', 'right'].map((name) => runCommand(db, 'create-unit', { number, name })))
    expect(both.filter((r) => r.ok)).toHaveLength(1)
  })
})

describe('versions', () => {
  test('a stale write is refused, and both versions are there', async () => {
    const { id } = await arrive()
    await save(id, 'pads', { note: 'first' })
    const late = await runCommand(db, 'save-step', {
      unitId: id,
      step: 'pads',
      version: 0,
      data: { note: 'from another tab' },
    })
    expect(refused(late)).toMatchObject({ code: 'stale', current: { version: 1, data: { note: 'first' } } })
    expect((await viewOf(id)).records.pads.data.note).toBe('first')
  })
  test('two first saves at once: one wins, none is half stored', async () => {
    const { id } = await arrive()
    const both = await Promise.all(
      ['a', 'b'].map((note) => runCommand(db, 'save-step', { unitId: id, step: 'pads', version: 0, data: { note } })),
    )
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect((await viewOf(id)).records.pads.version).toBe(1)
  })
})

describe('undo', () => {
  test('takes back the last change, then the one before', async () => {
    const { id } = await arrive()
    await save(id, 'pads', { note: 'one' })
    await save(id, 'pads', { note: 'two' }, 15)
    await save(id, 'pads', { note: 'two and a half' }, 20)
    expect(await run('undo', { unitId: id })).toMatchObject({ back: 'note' })
    expect((await viewOf(id)).records.pads.data.note).toBe('one')
    await run('undo', { unitId: id })
    expect((await viewOf(id)).records.pads.version).toBe(0)
    await run('undo', { unitId: id })
    expect((await loadAll(db)).units.some((u) => u.id === id)).toBe(false)
    expect(refused(await runCommand(db, 'undo', { unitId: id }))?.code).toBe('nothing-to-undo')
  })
  test('refuses when another change stands on what it would take back, and names it', async () => {
    const { id } = await arrive()
    const { id: boardId } = await run('create-board', { maker: 'Quoinsby', product: 'Undo', mains: false })
    const view = await viewOf(id)
    await run('edit-unit', { unitId: id, version: view.version, name: 'Named twice' })
    // The newest event of the unit is told of another row now: the name was changed by it.
    const [last] = await db
      .select()
      .from(schema.event)
      .where(eq(schema.event.unitId, id))
      .orderBy(desc(schema.event.id))
    await db.insert(schema.eventRow).values({
      eventId: (
        await db
          .insert(schema.event)
          .values({
            by: 'other',
            kind: 'board-edited',
            boardId: boardId as string,
            sentence: 'all renamed',
            undoable: true,
          })
          .returning()
      )[0]?.id as number,
      table: 'unit',
      rowId: id,
      made: false,
      patch: { in: {} },
    })
    expect(last?.kind).toBe('unit-edited')
    const told = refused(await runCommand(db, 'undo', { unitId: id }))
    expect(told).toMatchObject({ code: 'changed-since', message: expect.stringMatching(/all renamed/) })
  })
})

describe('gates', () => {
  test('a discharge is confirmed by a measurement below 30 V', async () => {
    const { id } = await arrive()
    await run('confirm-gate', { unitId: id, gate: 'mains-off' })
    expect(refused(await runCommand(db, 'confirm-gate', { unitId: id, gate: 'discharged' }))?.code).toBe(
      'measure-first',
    )
    expect(
      refused(await runCommand(db, 'confirm-gate', { unitId: id, gate: 'discharged', measured: '48,5' }))?.code,
    ).toBe('still-charged')
    await run('confirm-gate', { unitId: id, gate: 'discharged', measured: '0,4', early: true })
    expect((await viewOf(id)).gates.map((g) => g.gate).sort()).toEqual(['discharged', 'mains-off'])
  })
  test('serial and mains never together: one state ends the other, and reopening ends both', async () => {
    const { id } = await arrive()
    const gates = async () => (await viewOf(id)).gates.map((g) => g.gate)
    await run('save-step', { unitId: id, step: 'arrive', version: 0, data: { route: 'ready-flashed' } })
    await run('confirm-gate', { unitId: id, gate: 'mains-off' })
    await run('confirm-gate', { unitId: id, gate: 'case-closed' })
    expect(await gates()).toEqual(['case-closed'])
    await run('confirm-gate', { unitId: id, gate: 'mains-off' })
    expect(await gates()).toEqual(['mains-off'])
    await run('reopen-step', { unitId: id, step: 'arrive' })
    expect(await gates()).toEqual([])
  })
  test('no attempt is logged past an open gate', async () => {
    const { id } = await arrive()
    expect(
      refused(
        await runCommand(db, 'log-attempt', {
          unitId: id,
          outcome: 'done',
          minutes: 1,
          verify: 'digest',
          verified: true,
        }),
      )?.code,
    ).toBe('gate-open')
  })
})

describe('blobs', () => {
  test('come back byte for byte, are kept once, and are checked on every read', async () => {
    const bytes = noise(700_001, 5)
    const sha = await keepBlob(db, bytes)
    expect(sha).toBe(sha256Of(bytes))
    await keepBlob(db, bytes)
    expect(Buffer.from(await readBlob(db, sha)).equals(Buffer.from(bytes))).toBe(true)
    await db.execute(
      sql`update blob_chunk set data = set_byte(data, 7, get_byte(data, 7) # 1) where sha256 = ${sha} and seq = 1`,
    )
    await expect(readBlob(db, sha)).rejects.toBeInstanceOf(DamagedBlob)
  })
  test('a file is inspected here, and a newer read puts the older one aside', async () => {
    const { id } = await arrive()
    const keep = (bytes: Uint8Array) =>
      keepFile(db, { kind: 'dump', name: '../../-evil\u0000.bin', unitId: id, read: 1, tag: null }, bytes)
    await keep(noise(65536, 3))
    await keep(noise(65536, 9))
    const files = (await viewOf(id)).files
    expect(files).toHaveLength(1)
    expect(files[0]).toMatchObject({ name: '.._.._-evil_.bin', inspection: { bytes: 65536, private: true } })
  })
  test.each<[string, 'dump' | 'photo' | 'image', Uint8Array, string]>([
    ['an empty file', 'image', new Uint8Array(0), 'empty-file'],
    ['50 MB', 'image', new Uint8Array(50_000_000), 'too-large'],
    ['a text as a photo', 'photo', new Uint8Array(10).fill(65), 'no-photo'],
    ['a dump of nobody', 'dump', noise(4096, 3), 'no-unit'],
  ])('%s is refused and nothing is stored', async (_, kind, bytes, code) => {
    const count = async () => (await db.select().from(schema.file)).length
    const before = await count()
    expect(refused(await keepFile(db, { kind, name: 'x', unitId: null, read: null, tag: null }, bytes))?.code).toBe(
      code,
    )
    expect(await count()).toBe(before)
  })
  test('names of files cannot leave their folder', () =>
    expect(['a/b', 'c\\d', '-rf', '\u0007', 'x\u202egnp.exe', '\u200b'].map(safeFileName)).toEqual([
      'a_b',
      'c_d',
      'rf',
      '_',
      'x_gnp.exe',
      '_',
    ]))
})

describe('secrets', () => {
  test('the value is in no event and in no list; showing it is written down', async () => {
    const { id } = await arrive()
    const { id: secretId } = await run('keep-secret', { unitId: id, name: 'MQTT password', value: 'moonbeam-77' })
    expect(await run('reveal-secret', { secretId })).toEqual({ value: 'moonbeam-77' })
    expect(JSON.stringify(await db.select().from(schema.event))).not.toContain('moonbeam')
    expect((await recentEvents(db, 1, id))[0]?.sentence).toBe('secret shown: MQTT password')
  })
})

describe('bad input', () => {
  test.each<[CommandName, unknown]>([
    ['create-unit', null],
    ['create-unit', { number: -1, name: 'x' }],
    ['create-unit', { number: 1e9, name: 'x' }],
    ['create-unit', { number: 5, name: '   ' }],
    ['save-step', { unitId: 'x', step: 'pads', version: 0, data: {} }],
    ['confirm-gate', { unitId: 'x', gate: 'hope' }],
    [
      'add-kit',
      { kind: 'adapter', name: 'x', data: { pins: [], logicV: 3.3, max3v3Ma: null, labelledFrom: 'adapter' } },
    ],
  ])('%s %j', async (command, input) => expect(refused(await runCommand(db, command, input))?.code).toBe('input'))
  test('a record of the wrong shape is refused whole', async () => {
    const { id } = await arrive()
    expect(
      refused(await runCommand(db, 'save-step', { unitId: id, step: 'join', version: 0, data: { address: 5 } }))?.code,
    ).toBe('input')
    expect((await viewOf(id)).records.join.version).toBe(0)
  })
  test('names may hold anything that is text', async () => {
    const name = '<script>alert(1)</script> ‏מנורה 🎭'
    const { id } = await arrive(name)
    expect((await viewOf(id)).name).toBe(name)
    expect((await viewOf(id)).topic).toMatch(/^[a-z0-9/-]+$/)
  })
})

test('migrations run again change nothing, and profiles ship once', async () => {
  await migrateDatabase(db)
  await shipProfiles(db)
  await shipProfiles(db)
  expect((await loadAll(db)).profiles.map((p) => p.name)).toEqual(['Lattice', 'Plainsong', 'Skiff'])
})

test('a request of another page is foreign; one without an origin comes from a program here', () => {
  const request = (origin?: string) =>
    new Request('http://127.0.0.1:4290/api', { headers: { host: '127.0.0.1:4290', ...(origin ? { origin } : {}) } })
  expect(
    [request(), request('http://127.0.0.1:4290'), request('http://elsewhere.invalid'), request('null')].map(
      foreignOrigin,
    ),
  ).toEqual([false, false, true, true])
})

test('the chart packages are the MIT-licensed ones, and stay so', () => {
  for (const [name, version] of [
    ['apexcharts', '4.7.0'],
    ['react-apexcharts', '1.7.0'],
  ]) {
    const read = JSON.parse(readFileSync(`node_modules/${name}/package.json`, 'utf8')) as {
      version: string
      license: string
    }
    expect([read.version, read.license]).toEqual([version, 'MIT'])
  }
})
