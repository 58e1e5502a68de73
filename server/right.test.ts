import { assess } from '@fresh-coat/core/unit/assess'
import type { StepId } from '@fresh-coat/core/unit/way'
import { eq } from 'drizzle-orm'
import { lx106Stock } from '../demo/binaries'
import { boardPhoto } from '../demo/pictures'
import { runCommand } from './commands'
import type { Db } from './db/client'
import { settleRipples } from './db/ripple'
import * as schema from './db/schema'
import { codeOf, freshDatabase, heldVersion, runner, unplug } from './db/testing'
import { keepFile } from './files/keep'
import { loadUnit } from './units/load'
import { boardsOfLot } from './units/lots'
import { settleAll } from './units/settle'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 0
const arrive = async (boardId: string | null = null, name = `Right ${number + 1}`) =>
  (await run('create-unit', { number: ++number, name, boardId })).id as string
const save = async (unitId: string, step: StepId, data: object) =>
  run('save-step', { unitId, step, version: await heldVersion(db, unitId, step), data })
const viewOf = async (unitId: string) => {
  const view = await loadUnit(db, unitId, new Date())
  if (!view) throw new Error('gone')
  return view
}
const stateOf = async (unitId: string, step: StepId) =>
  assess(await viewOf(unitId)).steps.find((s) => s.id === step)?.state
const waiting = async (unitId: string) =>
  (await db.select().from(schema.unitState).where(eq(schema.unitState.unitId, unitId)))[0]?.waiting

describe('a board', () => {
  test('renamed makes nothing stale; another one does', async () => {
    const one = (await run('create-board', { maker: 'Harkle', product: 'Renamed', mains: false })).id as string
    const two = (await run('create-board', { maker: 'Harkle', product: 'Another', mains: false })).id as string
    const unitId = await arrive(one)
    await save(unitId, 'open', { noTerminals: true })
    await save(unitId, 'identify', { decision: { family: 'LX106', reason: 'It says so on the module.' } })
    await run('finish-step', { unitId, step: 'identify' })
    await run('edit-board', { boardId: one, version: 1, product: 'Renamed twice' })
    await settleRipples(db)
    expect(await stateOf(unitId, 'identify')).toBe('decided')
    const { version } = await viewOf(unitId)
    await run('edit-unit', { unitId, version, boardId: two })
    expect(await stateOf(unitId, 'identify')).toBe('stale')
  })
  test('edited in one field keeps the others', async () => {
    const boardId = (
      await run('create-board', { maker: 'Harkle', product: 'Kept', mains: true, hasMeter: true, fixedWiring: true })
    ).id as string
    await run('edit-board', { boardId, version: 1, note: 'the foil tears' })
    const [row] = await db.select().from(schema.board).where(eq(schema.board.id, boardId))
    expect(row).toMatchObject({ mains: true, hasMeter: true, fixedWiring: true, note: 'the foil tears' })
  })
  test('hands on the way and the adapter that its units usually get', async () => {
    const boardId = (await run('create-board', { maker: 'Harkle', product: 'Usual', mains: false })).id as string
    const adapterId = (
      await run('add-kit', {
        kind: 'adapter',
        name: 'Usual adapter',
        data: { pins: ['GND', '3V3', 'TX', 'RX'], logicV: 3.3, max3v3Ma: 500, labelledFrom: 'adapter' },
      })
    ).id as string
    const first = await arrive(boardId)
    await save(first, 'arrive', { route: 'module-off', triedAsSold: 'works', load: 'lamp' })
    await run('finish-step', { unitId: first, step: 'arrive' })
    await db
      .insert(schema.boardFact)
      .values({ boardId, key: 'adapterId', value: adapterId, unitId: first, step: 'wire' })
    const { records, adapter } = await viewOf(await arrive(boardId))
    expect([records.arrive.data.route, records.wire.data.adapterId]).toEqual(['module-off', adapterId])
    // What is filled in is what the plan is made with, here as on the page.
    expect(adapter?.name).toBe('Usual adapter')
  })
})

test('the only hub and the only reference meter are chosen; of two none is', async () => {
  const fresh = await freshDatabase()
  try {
    const go = runner(() => fresh.db)
    const unitId = (await go('create-unit', { number: 1, name: 'First' })).id as string
    const chosen = async () => {
      const view = await loadUnit(fresh.db, unitId, new Date())
      return [view?.records.hub.data.hubId, view?.records.meter.data.instrumentId]
    }
    expect(await chosen()).toEqual([null, null])
    const hubId = (await go('add-hub', { name: 'Mantel' })).id
    const meter = { kind: 'instrument', data: { gainPct: 0.5, digits: 2, resolution: 0.1 } }
    const instrumentId = (await go('add-kit', { ...meter, name: 'Bench meter' })).id
    expect(await chosen()).toEqual([hubId, instrumentId])
    await go('add-hub', { name: 'Second hub' })
    await go('add-kit', { ...meter, name: 'Second meter' })
    expect(await chosen()).toEqual([null, null])
  } finally {
    await fresh.end()
  }
})

describe('a name', () => {
  const slug = async (unitId: string) =>
    (await db.select().from(schema.unit).where(eq(schema.unit.id, unitId)))[0]?.slug
  test('in service is fixed: neither a newcomer nor a new name moves its topic, only a pin does', async () => {
    const old = await arrive(null, 'Stage lamp')
    await db.update(schema.unit).set({ inService: true }).where(eq(schema.unit.id, old))
    await arrive(null, 'Stage lamp')
    expect(await slug(old)).toBe('stage-lamp')
    const { version } = await viewOf(old)
    await run('edit-unit', { unitId: old, version, name: 'Stage lamp, left' })
    expect(await slug(old)).toBe('stage-lamp')
    await save(old, 'name', { pinned: 'left-lamp' })
    expect(await slug(old)).toBe('left-lamp')
  })
  test('shared with a newcomer is said of both, and of neither once it is alone again', async () => {
    const clash = { step: 'name', text: 'Another unit goes by the same name in topics.' }
    const first = await arrive(null, 'Curtain')
    await save(first, 'name', { reserved: true })
    await run('finish-step', { unitId: first, step: 'name' })
    const second = await arrive(null, 'Curtain')
    expect(await waiting(first)).toContainEqual(expect.objectContaining(clash))
    const third = await arrive(null, 'Curtain')
    for (const unitId of [third, second]) {
      const { version } = await viewOf(unitId)
      await run('edit-unit', { unitId, version, name: `Elsewhere ${unitId.slice(0, 4)}` })
    }
    expect(await waiting(first)).not.toContainEqual(expect.objectContaining(clash))
    // What is kept is what a rebuild gives.
    const kept = await waiting(first)
    await settleAll(db, new Date())
    expect(await waiting(first)).toEqual(kept)
  })
})

describe('files', () => {
  test.each([
    ['dump', 'not-a-chip-file'],
    ['image', 'not-a-chip-file'],
  ] as const)(
    'a picture dropped as a %s is refused with what it is, kept nowhere and counted nowhere',
    async (kind, code) => {
      const unitId = await arrive()
      const files = async () => (await db.select().from(schema.file)).length
      const before = await files()
      const result = await keepFile(
        db,
        {
          kind,
          name: 'board.png',
          unitId: kind === 'dump' ? unitId : null,
          read: kind === 'dump' ? 1 : null,
          tag: null,
        },
        boardPhoto(4, 1),
      )
      expect(result).toMatchObject({ ok: false, error: { code, message: expect.stringContaining('a PNG picture') } })
      expect([await files(), (await viewOf(unitId)).reads]).toEqual([before, []])
    },
  )
  test('a backup that was skipped and made after all is a backup', async () => {
    const unitId = await arrive()
    await save(unitId, 'backup', { skip: { code: 'owner', reason: 'The owner does not want one kept.' } })
    const stock = lx106Stock(77)
    for (const read of [1, 2] as const)
      await keepFile(db, { kind: 'dump', name: `read${read}.bin`, unitId, read, tag: null }, stock)
    await unplug(run, unitId)
    await run('finish-step', { unitId, step: 'backup' })
    expect(await stateOf(unitId, 'backup')).toBe('done')
  })
  test('keeping a read is an attempt: it ends “unplugged”', async () => {
    const unitId = await arrive()
    await unplug(run, unitId)
    await keepFile(db, { kind: 'dump', name: 'read1.bin', unitId, read: 1, tag: null }, lx106Stock(78))
    expect((await viewOf(unitId)).gates.map((g) => g.gate)).toEqual(['discharged'])
  })
  test('searching a dump is told of, limited, and finds nothing that is covered', async () => {
    const unitId = await arrive()
    const kept = await keepFile(db, { kind: 'dump', name: 'r.bin', unitId, read: 1, tag: null }, lx106Stock(79))
    const fileId = kept.ok ? (kept.value.id as string) : ''
    await run('search-bytes', { fileId, query: 'ssid' })
    const events = await db.select().from(schema.event).where(eq(schema.event.kind, 'bytes-searched'))
    expect(events.map((e) => e.unitId)).toEqual([unitId])
    for (let i = 1; i < 60; i++) await run('search-bytes', { fileId, query: '0xe9' })
    expect(codeOf(await runCommand(db, 'search-bytes', { fileId, query: '0xe9' }))).toBe('enough-searches')
  }, 60_000)
})

test('a saved calibration is the one on the page: its ratings and the mains of the site are in it', async () => {
  await run('set-site', { name: 'Yard', base: 'yard', slug: 'lantern', mainsVolts: 120 })
  const instrumentId = (
    await run('add-kit', { kind: 'instrument', name: 'Site meter', data: { gainPct: 0.5, digits: 2, resolution: 0.1 } })
  ).id
  const unitId = await arrive()
  await save(unitId, 'arrive', { ratedAmps: 10 })
  const points = [60, 1000, 1150].map((reference, i) => ({
    id: `p${i}`,
    indicated: reference * 0.97,
    reference,
    role: 'fit',
  }))
  await save(unitId, 'meter', { instrumentId, points })
  await run('save-calibration', { unitId })
  const [row] = await db.select().from(schema.calibration).where(eq(schema.calibration.unitId, unitId))
  expect((row?.input as { rated?: object } | undefined)?.rated).toEqual({ P: 1200, I: 10 })
  await save(unitId, 'meter', { points: [...points, { id: 'p9', indicated: 1300, reference: 1310, role: 'fit' }] })
  await run('save-calibration', { unitId })
  const rows = await db.select().from(schema.calibration).where(eq(schema.calibration.unitId, unitId))
  const warnings = rows.map((r) => (r.result as { warnings: string[] }).warnings.includes('over-rating'))
  expect(warnings.sort()).toEqual([false, true])
})

test('a unit with relays only can finish Hub', async () => {
  const hubId = (await run('add-hub', { name: 'Mantel' })).id
  const unitId = await arrive()
  await save(unitId, 'hub', { hubId })
  for (const direction of ['details in the unit', 'shown by the hub', 'named and placed', 'hub to unit', 'automations'])
    await run('add-hub-test', { unitId, direction, ok: true, seen: 'the lamp went on and off' })
  expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'hub' }))).toBe('not-yet')
  await save(unitId, 'hub', { noButton: true })
  expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'hub' }))).toBe('ok')
})

test.each([['abc'], [0], [-3], [1.5], [999_999_999_999], [null], ['']])(
  'a new unit with number %j is refused with a reason, and no other number is given',
  async (wrong) => {
    const before = (await db.select().from(schema.unit)).length
    const result = await runCommand(db, 'create-unit', { number: wrong, name: 'Wrongly numbered' })
    expect(result).toMatchObject({ ok: false, error: { message: expect.stringMatching(/\S/) } })
    expect((await db.select().from(schema.unit)).length).toBe(before)
  },
)

test('the other units of a lot say which board it is, however the lot was typed; of another seller they do not count', async () => {
  const [c, d] = await Promise.all(
    ['rev C', 'rev D'].map(
      async (revision) =>
        (await run('create-board', { maker: 'Tolliver', product: 'Lot', revision, mains: false })).id as string,
    ),
  )
  const bought = async (boardId: string | undefined, lot: string, seller: string) => {
    const unitId = await arrive(boardId)
    await save(unitId, 'arrive', { lot, seller })
    return (await viewOf(unitId)).number
  }
  const first = await bought(c, ' Box 17b', '')
  await bought(d, 'box 17B', 'The corner shop')
  await bought(d, 'BOX 17B ', 'the corner shop')
  await bought(d, 'box 17B', 'Somebody else')
  await bought(undefined, 'box 17B', '')
  await bought(d, 'box 18', '')
  const counts = async (lot: string, seller: string, but: number | null) =>
    (await boardsOfLot(db, lot, seller, but)).map((b) => [b.name, b.units])
  expect(await counts('Box 17B', 'The Corner Shop', null)).toEqual([
    ['Tolliver Lot rev D', 2],
    ['Tolliver Lot rev C', 1],
  ])
  expect(await counts('Box 17B', '', first)).toEqual([['Tolliver Lot rev D', 3]])
  expect(await counts('', 'The corner shop', null)).toEqual([])
  expect(await counts('nobody’s', '', null)).toEqual([])
})
