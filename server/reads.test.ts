import { randomUUID } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { painted } from '@fresh-coat/core/unit/coats'
import { eq, sql } from 'drizzle-orm'
import { lx106Image, lx106Stock } from '../demo/binaries'
import { boardChoices, boardDossier, boardPage, boardRows } from './boards/lists'
import type { Db } from './db/client'
import { settleRipples } from './db/ripple'
import * as schema from './db/schema'
import { freshDatabase, heldVersion, runner } from './db/testing'
import { fileDossier } from './files/dossier'
import { keepFile } from './files/keep'
import { dumpsOf, firstReads, images } from './files/reads'
import { find } from './find'
import { shipProfiles } from './kit/profiles'
import { kitOf, markings, profiles } from './kit/reads'
import { addressed, networkPage, otherUnits } from './network/reads'
import { benchPage } from './units/bench'
import { unitFilterOf } from './units/filter'
import {
  freeNumber,
  meteredUnits,
  nextStepOf,
  places,
  stockCount,
  stockPage,
  unitCounts,
  unitRows,
  unitSorts,
  usersOfImages,
} from './units/lists'
import { paceOfBoard } from './units/pace'
import { unitPage as pageOfUnit } from './units/page'
import { settleOverdue } from './units/settle'

let db: Db
let end: () => Promise<void>
const run = runner(() => db)
const ids: Record<string, string> = {}
let boardId = ''
let imageId = ''
let adapterId = ''

/** A small workshop: six units of two boards, some further than others. */
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-reads-'))
  ;({ db, end } = await freshDatabase())
  await shipProfiles(db)
  boardId = (
    await run('create-board', { maker: 'Pellworth', product: 'P1', revision: 'rev C', mains: false, hasMeter: true })
  ).id as string
  const other = (await run('create-board', { maker: 'Quoinsby', product: 'Q4', mains: false })).id as string
  adapterId = (
    await run('add-kit', {
      kind: 'adapter',
      name: 'Blue adapter',
      data: { pins: ['GND', 'TX', 'RX', '3V3'], logicV: 3.3, max3v3Ma: 500, labelledFrom: 'adapter' },
    })
  ).id as string
  for (const [n, name, place, board] of [
    [1, 'Ticket lamp', 'foyer', boardId],
    [2, 'Moon lamp', 'attic', boardId],
    [3, 'Fan', 'attic', other],
    [7, 'Heater A', 'stage', boardId],
    [12, 'Curtain rail', 'stage', null],
    [20, 'Heater B', '', boardId],
  ] as const)
    ids[name] = (await run('create-unit', { number: n, name, place, boardId: board })).id as string
  const save = async (name: string, step: string, data: object) =>
    run('save-step', {
      unitId: ids[name],
      step,
      version: await heldVersion(db, ids[name] as string, step as never),
      data,
    })
  await save('Ticket lamp', 'arrive', { route: 'built', triedAsSold: 'works', load: 'lamp', ratedAmps: 10 })
  await run('finish-step', { unitId: ids['Ticket lamp'], step: 'arrive' })
  await save('Ticket lamp', 'identify', {
    printed: 'PW 106-A7',
    decision: { family: 'LX106', reason: 'read on the chip itself' },
  })
  await run('finish-step', { unitId: ids['Ticket lamp'], step: 'identify' })
  await save('Moon lamp', 'identify', { printed: 'pw106a7' })
  await save('Moon lamp', 'join', {
    address: '192.168.71.21',
    mac: '44:b7:d0:31:0a:21',
    apMac: '46:b7:d0:31:0a:21',
    confirmedBy: 'by hand',
  })
  await save('Heater A', 'wire', { adapterId })
  const image = await keepFile(
    db,
    { kind: 'image', name: 'plainsong-full.bin', unitId: null, read: null, tag: null },
    lx106Image('DOUT', 3),
  )
  imageId = image.ok ? (image.value.id as string) : ''
  await save('Heater A', 'check', { fileId: imageId, firmware: 'Plainsong', firmwareVersion: '9.4.1' })
  for (const read of [1, 2] as const)
    await keepFile(
      db,
      { kind: 'dump', name: `stock${read}.bin`, unitId: ids['Moon lamp'] as string, read, tag: null },
      lx106Stock(2 + read),
    )
  await run('take-in-hand', { unitId: ids['Heater A'] })
  await settleRipples(db)
})
afterAll(() => end())

describe('lists of units', () => {
  test('by number, a page at a time', async () => {
    const first = await unitRows(db, {}, 0, 4)
    expect(first.map((u) => u.number)).toEqual([1, 2, 3, 7])
    expect((await unitRows(db, {}, 4, 4)).map((u) => u.number)).toEqual([12, 20])
    expect([await unitCounts(db, {}), await freeNumber(db)]).toEqual([{ all: 6, found: 6 }, 21])
  })
  test.each<[string, Parameters<typeof unitRows>[1], number[]]>([
    ['of a place', { place: 'attic' }, [2, 3]],
    ['by words of name, place, board or address', { text: 'MOON' }, [2]],
    ['by address', { text: '192.168.71.21' }, [2]],
    ['with signs that mean something in a pattern', { text: '100%_' }, []],
    ['that wait on a person', { waits: true }, [7]],
    ['of a coat', { coat: 'hang' }, []],
    ['of two filters at once', { place: 'stage', text: 'heater' }, [7]],
  ])('%s', async (_, filter, numbers) => {
    expect((await unitRows(db, filter, 0, 50)).map((u) => u.number)).toEqual(numbers)
    expect(await unitCounts(db, filter)).toEqual({ all: 6, found: numbers.length })
  })
  test('in every order, each unit once, and the same again from any place on', async () => {
    for (const sort of unitSorts) {
      const all = (await unitRows(db, { sort }, 0, 50)).map((u) => u.number)
      expect([...all].sort((a, b) => a - b)).toEqual([1, 2, 3, 7, 12, 20])
      expect((await unitRows(db, { sort }, 2, 3)).map((u) => u.number)).toEqual(all.slice(2, 5))
    }
    const byName = (await unitRows(db, { sort: 'name' }, 0, 50)).map((u) => u.name.toLowerCase())
    expect(byName).toEqual([...byName].sort())
  })
  test('what an address says that is no filter is left out', () => {
    expect(unitFilterOf({ coat: 'varnish', sort: 'colour', board: 'x', place: ['a', 'b'], waits: '1' })).toEqual({
      waits: true,
    })
    expect(unitFilterOf({ coat: 'cure', sort: 'name', place: 'attic' })).toEqual({
      coat: 'cure',
      sort: 'name',
      place: 'attic',
    })
  })
  test('of a board', async () => {
    expect((await unitRows(db, { board: boardId }, 0, 50)).map((u) => u.number)).toEqual([1, 2, 7, 20])
  })
  test('places, each once', async () => expect(await places(db)).toEqual(['attic', 'foyer', 'stage']))
  test('where a unit goes on', async () => {
    expect([await nextStepOf(db, 1), await nextStepOf(db, 2), await nextStepOf(db, 999)]).toEqual([
      'pads',
      'arrive',
      null,
    ])
  })
})

describe('the bench', () => {
  test('what is in hand, the rack with its counts, what waits, what happened', async () => {
    const bench = await benchPage(db, '2026-11-27', '2026-12-11')
    expect([bench.empty, bench.inHand?.number, bench.waitingCount]).toEqual([false, 7, 1])
    expect([bench.atWork, bench.inService, bench.wetAgain]).toEqual([6, 0, 0])
    // The furthest on hangs on top; the rest by number.
    expect(bench.rack.map((u) => u.number)).toHaveLength(6)
    expect(bench.rack.map((u) => painted(u.coats))).toEqual(
      [...bench.rack.map((u) => painted(u.coats))].sort((a, b) => b - a),
    )
    expect(bench.waiting[0]).toMatchObject({ number: 7, waiting: [{ step: 'check', severity: 'error' }] })
    expect(bench.log[0]?.sentence).toBe('07 taken in hand')
  })
  test('a due date shows while it is near, and its unit is looked at again once it is past', async () => {
    await db
      .update(schema.unitState)
      .set({ due: '2026-12-01', dueWhat: 'Meter re-check', holdsUntil: '2026-12-02' })
      .where(eq(schema.unitState.number, 20))
    const due = async (from: string, to: string) => (await benchPage(db, from, to)).due.map((u) => u.number)
    expect([await due('2026-11-27', '2026-12-11'), await due('2026-11-01', '2026-11-20')]).toEqual([[20], []])
    await settleOverdue(db, new Date('2026-12-03T10:00:00Z'))
    // It had no meter to be due: working it out anew says so.
    expect(await due('2026-11-27', '2026-12-11')).toEqual([])
  })
})

describe('the page of a unit', () => {
  test('has what its step needs and leaves the rest out', async () => {
    const check = await pageOfUnit(db, 7, 'check')
    const wire = await pageOfUnit(db, 7, 'wire')
    expect([check?.choices.images.length, wire?.choices.images.length]).toEqual([1, 0])
    expect(check?.view.image?.name).toBe('plainsong-full.bin')
    expect(wire?.view.adapter).toMatchObject({ name: 'Blue adapter', logicV: 3.3 })
    expect([check?.before, check?.after]).toEqual([3, 12])
  })
  test('names what counts on, and the next free number', async () => {
    expect((await pageOfUnit(db, 7, 'arrive'))?.choices.next).toEqual({ number: 21, name: 'Heater C' })
  })
  test('sends the map of a dump to Back up only', async () => {
    const runs = async (step: 'backup' | 'write') => {
      const dump = (await pageOfUnit(db, 2, step))?.view.files.find((f) => f.kind === 'dump')
      return (dump?.inspection as { runs?: unknown[] } | undefined)?.runs?.length ?? 0
    }
    expect([await runs('backup'), await runs('write')]).toEqual([expect.any(Number), 0])
    expect(await runs('backup')).toBeGreaterThan(0)
  })
  test('offers the kept stock firmware of a twin', async () => {
    const page = await pageOfUnit(db, 7, 'backup')
    expect(page?.choices.twins).toMatchObject([{ number: 2, state: 'differ' }])
  })
  test('an adapter that is filled in is the unit’s adapter for the server too, before anybody saved it', async () => {
    const wireOf = async (number: number) => {
      const view = (await pageOfUnit(db, number, 'wire'))?.view
      return [view?.records.wire.version, view?.records.wire.data.adapterId, view?.adapter?.name]
    }
    // The only one in the kit.
    expect(await wireOf(12)).toEqual([0, adapterId, 'Blue adapter'])
    // With two in the kit, the one this board was wired with.
    const second = (await run('add-kit', {
      kind: 'adapter',
      name: 'Red adapter',
      data: { pins: ['GND', 'TX', 'RX', '3V3'], logicV: 3.3, max3v3Ma: 500, labelledFrom: 'adapter' },
    })) as { id: string }
    expect(await wireOf(12)).toEqual([0, null, undefined])
    const fact = { boardId, key: 'adapterId', value: second.id, step: 'wire', at: new Date('2040-01-01') }
    await db.insert(schema.boardFact).values(fact as typeof schema.boardFact.$inferInsert)
    expect(await wireOf(20)).toEqual([0, second.id, 'Red adapter'])
    await db.delete(schema.boardFact).where(eq(schema.boardFact.at, fact.at))
    await db.delete(schema.kit).where(eq(schema.kit.id, second.id))
  })
  test('knows what the board was found to be elsewhere', async () => {
    const page = await pageOfUnit(db, 20, 'identify')
    expect(page?.view.board).toMatchObject({ family: 'LX106', ratedAmps: 10, markings: { LX106: 1 }, unitCount: 4 })
  })
  test.each([0, -1, 1.5, Number.NaN, 2 ** 40])('number %s is nobody’s', async (n) =>
    expect(await pageOfUnit(db, n, 'pads')).toBe(null),
  )
})

describe('boards', () => {
  test('with their facts, a page at a time by name', async () => {
    const boards = await boardPage(db)
    expect(boards.map((b) => [b.name, b.units, b.numbers])).toEqual([
      ['Pellworth P1 rev C', 4, [1, 2, 7, 20]],
      ['Quoinsby Q4', 1, [3]],
    ])
    expect(boards[0]).toMatchObject({ family: 'LX106', ratedAmps: 10, pads: null })
    expect((await boardPage(db, boards[0]?.sortName)).map((b) => b.name)).toEqual(['Quoinsby Q4'])
  })
  test('to choose from, with how many units each has', async () =>
    expect((await boardChoices(db)).map((b) => b.units)).toEqual([4, 1]))
  test('one of them with who taught what', async () => {
    const dossier = await boardDossier(db, boardId)
    expect(dossier?.facts.find((f) => f.key === 'family')).toMatchObject({
      unitNumber: 1,
      step: 'identify',
      value: 'LX106',
    })
    expect(await boardDossier(db, '00000000-0000-4000-8000-000000000000')).toBe(null)
  })
  test('time at the bench of its units, in the order they were begun', async () => {
    const pace = await paceOfBoard(db, boardId)
    expect(pace.units.map((u) => u.number)).toEqual([1, 2, 7, 20])
  })
  test('rows of pads, for the kit as a whole: the newest of each board, and only what can be read', async () => {
    const pads = {
      pads: ['GND', 'TX'],
      pitchMm: 2,
      bootBy: null,
      regulator5v: false,
      rows: 1,
      onPhoto: null,
      readings: [],
    }
    const fact = (value: unknown, at: string) =>
      db.insert(schema.boardFact).values({ boardId, key: 'pads', value, step: 'pads', at: new Date(at) })
    expect(await boardRows(db)).toEqual([])
    await fact({ ...pads, pads: ['GND'] }, '2039-01-01')
    await fact(pads, '2040-01-01')
    expect(await boardRows(db)).toEqual([
      { id: boardId, name: 'Pellworth P1 rev C', pads: ['GND', 'TX'], pitchMm: 2, rows: 1 },
    ])
    await fact({ pads: 'all of them' }, '2041-01-01')
    expect(await boardRows(db)).toEqual([])
    await db.delete(schema.boardFact).where(eq(schema.boardFact.key, 'pads'))
  })
  test('a fact that this version cannot read counts as not known', async () => {
    await db
      .insert(schema.boardFact)
      .values({ boardId, key: 'ratedAmps', value: { amps: 'many' }, at: new Date('2040-01-01') })
    expect((await boardPage(db))[0]?.ratedAmps).toBe(null)
    await db.delete(schema.boardFact).where(eq(schema.boardFact.at, new Date('2040-01-01')))
  })
})

describe('files', () => {
  test('images to choose, and who chose them', async () => {
    expect((await images(db)).map((f) => f.name)).toEqual(['plainsong-full.bin'])
    expect(await usersOfImages(db, [imageId])).toEqual(new Map([[imageId, { all: 1, numbers: [7] }]]))
    expect(await usersOfImages(db, [])).toEqual(new Map())
  })
  test('stock firmware by unit, with the secrets that were counted in it', async () => {
    expect([await stockCount(db), (await stockPage(db, 0)).map((s) => [s.number, s.backup])]).toEqual([
      1,
      [[2, 'differ']],
    ])
    const dumps = await dumpsOf(db, [ids['Moon lamp'] as string])
    expect(dumps.map((d) => d.read).sort()).toEqual([1, 2])
    expect(dumps[0]?.secrets).toBeGreaterThan(0)
    expect(await firstReads(db, null)).toMatchObject([{ number: 2 }])
    expect(await firstReads(db, 7)).toEqual([])
  })
  test('one of them with whose it is and what it can be compared with', async () => {
    const [dump] = await dumpsOf(db, [ids['Moon lamp'] as string])
    const dossier = await fileDossier(db, dump?.id as string)
    expect(dossier).toMatchObject({
      owner: { number: 2 },
      boards: [{ name: 'Pellworth P1 rev C' }],
      others: [{ unit: 2 }],
    })
    expect((await fileDossier(db, imageId))?.owner).toBe(null)
  })
})

describe('network and kit', () => {
  test('who is where', async () => {
    expect((await networkPage(db, 0, 50)).map((r) => [r.number, r.topic, r.address])).toContainEqual([
      2,
      'home/main/moon-lamp',
      '192.168.71.21',
    ])
    expect(await addressed(db)).toEqual([{ number: 2, name: 'Moon lamp', address: '192.168.71.21', reserved: false }])
  })
  test('whose access point is known goes along when another unit is looked for', async () => {
    expect((await otherUnits(db, 7)).map((u) => u.number)).toEqual([2])
    expect(await otherUnits(db, 2)).toEqual([])
  })
  test('markings that read alike are one, counted by what was established', async () => {
    expect(await markings(db)).toMatchObject([{ key: 'PW106A7', units: [{ number: 1, family: 'LX106' }] }])
    expect(await markings(db, 'P W-106 a7')).toHaveLength(1)
    expect([await markings(db, 'other'), await markings(db, '--')]).toEqual([[], []])
  })
  test('kit by kind; a stored adapter of an odd form is read field by field', async () => {
    await db.insert(schema.kit).values({ kind: 'adapter', name: 'Odd', data: { pins: ['GND'], logicV: 'five' } })
    const { adapters, loads } = await kitOf(db)
    expect(adapters.map((a) => [a.name, a.pins, a.logicV])).toEqual([
      ['Blue adapter', ['GND', 'TX', 'RX', '3V3'], 3.3],
      ['Odd', ['GND'], 5],
    ])
    expect([loads, (await profiles(db)).map((p) => p.name)]).toEqual([[], ['Lattice', 'Plainsong', 'Skiff']])
  })
  test('units with a meter to look after', async () =>
    expect((await meteredUnits(db)).map((u) => u.number)).toEqual([1, 2, 7, 20]))
})

describe('find', () => {
  const titles = async (q: string) => (await find(db, q)).map((h) => h.title)
  test('a case number first', async () => expect((await titles('7'))[0]).toBe('07 Heater A'))
  test.each([
    ['moon', '02 Moon lamp'],
    ['192.168.71.21', '02 Moon lamp'],
    ['44:B7:D0', '02 Moon lamp'],
    ['pellworth', 'Pellworth P1 rev C'],
    ['lx106', 'Pellworth P1 rev C'],
    ['plainsong', 'plainsong-full.bin'],
    ['blue', 'Blue adapter'],
  ])('%s', async (q, title) => expect(await titles(q)).toContain(title))
  test('a file by the beginning of its hash', async () => {
    const [image] = await images(db)
    expect(await titles((image?.sha256 ?? '').slice(0, 6))).toContain('plainsong-full.bin')
  })
  test('nothing typed shows units; nonsense shows nothing; signs are letters', async () => {
    expect(await titles('')).toHaveLength(6)
    for (const q of ['zzzz', '%', '_', "'; drop table unit; --", '\\']) expect(await titles(q)).toEqual([])
  })
})

/** Last, since the lists above count what there is. */
describe('beside many others of its board', () => {
  test('of thirty twins the twelve best: those read twice alike first, each by its number, never the unit itself', async () => {
    const { id: twinBoard } = await run('create-board', { maker: 'Harkle', product: 'Twin', mains: false })
    const standing = new Map<number, string>()
    for (let number = 900; number < 930; number++) {
      const { id } = await run('create-unit', { number, name: `Twin ${number}`, boardId: twinBoard })
      const state = ['differ', 'verified', 'none', 'once'][number % 4] as string
      standing.set(number, state)
      const [unitId, sha256] = [id as string, `${number}`.padStart(64, '0')]
      await db.insert(schema.blob).values({ sha256, bytes: 1, held: false })
      await db.insert(schema.file).values({ kind: 'dump', name: 'stock.bin', unitId, read: 1, sha256 })
      await db.update(schema.unitState).set({ backup: state }).where(eq(schema.unitState.unitId, unitId))
    }
    const offered = async (number: number) =>
      (await pageOfUnit(db, number, 'backup'))?.choices.twins.map((t) => t.number) ?? []
    const best = (but: number) => {
      const kept = [...standing].filter(([n, state]) => state !== 'none' && n !== but).map(([n]) => n)
      const twice = kept.filter((n) => standing.get(n) === 'verified')
      return [...twice, ...kept.filter((n) => !twice.includes(n))].slice(0, 12)
    }
    for (const number of [900, 901, 902, 913]) expect(await offered(number)).toEqual(best(number))
  })
  test('of each image the first twelve that chose it, and how many there are, however many chose another', async () => {
    const numbers = Array.from({ length: 31 }, (_, i) => 970 + i)
    for (const number of numbers) await run('create-unit', { number, name: `Lamp of ${number}` })
    await settleRipples(db)
    const rare = randomUUID()
    await db.execute(sql`update unit_state set image_id = case when number = 1000 then ${rare}::uuid else ${imageId}::uuid end
      where number between 970 and 1000`)
    // Also as those are found that many units chose.
    for (const many of [600, 20, 0]) {
      const users = await usersOfImages(db, [imageId, rare, randomUUID()], 12, many)
      expect(users.get(imageId)).toEqual({ all: 31, numbers: [7, ...numbers.slice(0, 11)] })
      expect([users.get(rare), users.size]).toEqual([{ all: 1, numbers: [1000] }, 2])
    }
  })
  test('the next name is one that no unit of its board has, and without a board it counts on all the same', async () => {
    const { id: board } = await run('create-board', { maker: 'Harkle', product: 'Names', mains: false })
    for (const [number, name] of [
      [940, 'Lamp 1'],
      [941, 'Lamp 3'],
      [942, 'lamp 2'],
    ] as const)
      await run('create-unit', { number, name, boardId: board })
    const { id: loose } = await run('create-unit', { number: 943, name: 'Lamp 1' })
    expect((await pageOfUnit(db, 940, 'arrive'))?.choices.next.name).toBe('Lamp 4')
    expect((await pageOfUnit(db, 943, 'arrive'))?.choices.next.name).toBe('Lamp 2')
    await run('undo', { unitId: loose })
  })
})
