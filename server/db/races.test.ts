import { and, eq, isNull } from 'drizzle-orm'
import { lx106Stock } from '../../demo/binaries'
import { runCommand } from '../commands'
import { keepFile } from '../files/keep'
import { loadUnit } from '../units/load'
import type { Db } from './client'
import { settleRipples } from './ripple'
import * as schema from './schema'
import { codeOf, freshDatabase, runner } from './testing'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 500
const arrive = async () =>
  (await run('create-unit', { number: ++number, name: `Race ${number}`, boardId: null })).id as string
const openGates = async (unitId: string) =>
  (
    await db
      .select()
      .from(schema.gate)
      .where(and(eq(schema.gate.unitId, unitId), isNull(schema.gate.clearedAt), isNull(schema.gate.struckAt)))
  ).map((g) => g.gate)

describe('two things at once', () => {
  test('opposite gates: never both open, in any of forty races', async () => {
    const { id: boardId } = await run('create-board', { maker: 'Harkle', product: 'Gate race' })
    for (let i = 0; i < 40; i++) {
      const unitId = await arrive()
      await run('edit-unit', { unitId, version: 1, boardId })
      // Never opened on its route: its case can be called closed.
      await run('save-step', { unitId, step: 'arrive', version: 0, data: { route: 'ready-flashed' } })
      await Promise.all(
        (['mains-off', 'case-closed'] as const).map((gate) => runCommand(db, 'confirm-gate', { unitId, gate })),
      )
      const open = await openGates(unitId)
      expect(open.filter((g) => g === 'mains-off' || g === 'case-closed').length).toBeLessThanOrEqual(1)
    }
  }, 60_000)
  test('the database itself refuses two opposite confirmations', async () => {
    const unitId = await arrive()
    const row = (gate: string) => ({ unitId, gate, day: '2026-11-27', by: 'test' })
    await db.insert(schema.gate).values(row('mains-off'))
    await expect(db.insert(schema.gate).values(row('case-closed'))).rejects.toThrow()
  })
  test('two units taken in hand: one is, and both people hear how it went', async () => {
    const [one, two] = [await arrive(), await arrive()]
    const both = await Promise.all([one, two].map((unitId) => runCommand(db, 'take-in-hand', { unitId })))
    expect(both.every((r) => r.ok || r.error.code === 'stale')).toBe(true)
    expect(await db.select().from(schema.unit).where(eq(schema.unit.inHand, true))).toHaveLength(1)
  })
  test('two first reads of one chip: one stays in front, the other is put aside, neither is lost', async () => {
    const unitId = await arrive()
    const both = await Promise.all(
      [51, 52].map((seed) =>
        keepFile(db, { kind: 'dump', name: `read-${seed}.bin`, unitId, read: 1, tag: null }, lx106Stock(seed)),
      ),
    )
    expect(both.map(codeOf)).toEqual(['ok', 'ok'])
    const rows = await db.select().from(schema.file).where(eq(schema.file.unitId, unitId))
    expect([rows.length, rows.filter((r) => r.asideAt === null).length]).toEqual([2, 1])
  })
  test('ten people on ten units of one board: all are heard, and what each taught counts', async () => {
    const { id: boardId } = await run('create-board', { maker: 'Harkle', product: 'Busy', mains: false })
    const units = []
    for (let i = 0; i < 10; i++) {
      const unitId = await arrive()
      await run('edit-unit', { unitId, version: 1, boardId })
      await run('save-step', {
        unitId,
        step: 'arrive',
        version: 0,
        data: { route: 'built', triedAsSold: 'works', load: 'lamp', ratedAmps: 6 + i },
      })
      units.push(unitId)
    }
    const done = await Promise.all(units.map((unitId) => runCommand(db, 'finish-step', { unitId, step: 'arrive' })))
    expect(done.map(codeOf)).toEqual(units.map(() => 'ok'))
    const facts = await db
      .select()
      .from(schema.boardFact)
      .where(eq(schema.boardFact.boardId, boardId as string))
    expect(facts.filter((f) => f.key === 'ratedAmps')).toHaveLength(10)
    await settleRipples(db)
    expect(await db.$count(schema.ripple)).toBe(0)
  })
})

describe('what is shared reaches every unit that rests on it', () => {
  const stateOf = async (unitId: string) =>
    (await db.select().from(schema.unitState).where(eq(schema.unitState.unitId, unitId)))[0]
  test('another name of a board, another site: lists show it once the ripple is through', async () => {
    const { id: boardId } = await run('create-board', {
      maker: 'Harkle',
      product: 'Ripple',
      mains: false,
      hasMeter: false,
    })
    const unitId = await arrive()
    await run('edit-unit', { unitId, version: 1, boardId })
    await settleRipples(db)
    expect((await stateOf(unitId))?.metering).toBe(false)
    await run('edit-board', { boardId, version: 1, hasMeter: true })
    await run('set-site', { name: 'Yard', base: 'yard', slug: 'lantern' })
    await settleRipples(db)
    const state = await stateOf(unitId)
    expect([state?.metering, state?.topic]).toEqual([true, expect.stringMatching(/^yard\/lantern\//)])
  })
  test('the page of a unit never waits for it: it is worked out from what is stored', async () => {
    const { id: boardId } = await run('create-board', { maker: 'Harkle', product: 'At once', mains: false })
    const unitId = await arrive()
    await run('edit-unit', { unitId, version: 1, boardId })
    await run('edit-board', { boardId, version: 1, product: 'At once, renamed' })
    expect((await loadUnit(db, unitId, new Date()))?.board?.name).toBe('Harkle At once, renamed')
  })
})

test('a transaction that met another one is tried again; a bug is not', async () => {
  const unitId = await arrive()
  const many = await Promise.all(
    Array.from({ length: 12 }, (_, i) => runCommand(db, 'edit-unit', { unitId, version: 1, name: `Name ${i}` })),
  )
  expect(many.filter((r) => r.ok)).toHaveLength(1)
  for (const r of many) if (!r.ok) expect(r.error.code).toBe('stale')
})
