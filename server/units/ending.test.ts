import { eq } from 'drizzle-orm'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { codeOf, freshDatabase, runner } from '../db/testing'
import { benchPage } from './bench'
import { unitRows } from './lists'
import { loadUnit } from './load'
import { costOfRoutes } from './pace'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 700
async function arrive(route = 'built', paid: number | null = null) {
  const id = (await run('create-unit', { number: ++number, name: `Unit ${number}` })).id as string
  await run('save-step', { unitId: id, step: 'arrive', version: 0, data: { route, paid } })
  return id
}
const viewOf = async (id: string) => {
  const view = await loadUnit(db, id, new Date())
  if (!view) throw new Error('no such unit')
  return view
}
const stateOf = async (id: string) => {
  const [row] = await db.select().from(schema.unitState).where(eq(schema.unitState.unitId, id))
  if (!row) throw new Error('no state')
  return row
}
const bench = () => benchPage(db, '2026-11-28', '2026-12-28')

describe('a unit that is given up', () => {
  test('waits for nobody: off the rack, not at work, nothing due, and found among those given up', async () => {
    const id = await arrive()
    await run('take-in-hand', { unitId: id })
    const before = await bench()
    await run('give-up', { unitId: id, how: 'died', why: 'the regulator shorted' })
    expect(await stateOf(id)).toMatchObject({ lane: 'ended', inService: false, due: null, waiting: [], waitRank: null })
    const after = await bench()
    expect(after.atWork).toBe(before.atWork - 1)
    expect(after.inHand).toBeNull()
    expect(after.rack.map((u) => u.id)).not.toContain(id)
    expect((await unitRows(db, { coat: 'ended' }, 0, 50)).map((u) => u.id)).toContain(id)
  })
  test('keeps its record and its number, and no step of it is finished', async () => {
    const id = await arrive('ready-flashed')
    await run('give-up', { unitId: id, how: 'put-away' })
    expect((await viewOf(id)).records.arrive.data.route).toBe('ready-flashed')
    expect(codeOf(await runCommand(db, 'finish-step', { unitId: id, step: 'arrive', version: 1 }))).toBe('ended')
    expect(codeOf(await runCommand(db, 'take-in-hand', { unitId: id }))).toBe('ended')
    expect(codeOf(await runCommand(db, 'create-unit', { number, name: 'Its number' }))).toBe('number-taken')
  })
  test('is taken up again where it stood; it serves only when it was proved again', async () => {
    const id = await arrive()
    await db.update(schema.unit).set({ inService: true }).where(eq(schema.unit.id, id))
    await run('give-up', { unitId: id, how: 'put-away', why: 'no winter shows' })
    expect(codeOf(await runCommand(db, 'give-up', { unitId: id, how: 'put-away' }))).toBe('ended')
    await run('take-up-again', { unitId: id })
    expect((await viewOf(id)).ended).toBeNull()
    expect(await stateOf(id)).toMatchObject({ lane: 'strip', inService: false })
    expect(codeOf(await runCommand(db, 'take-up-again', { unitId: id }))).toBe('not-ended')
  })
  test('undo takes the end back, and it serves as before; what lies in the hand is where the hand left it', async () => {
    const id = await arrive()
    await db.update(schema.unit).set({ inService: true }).where(eq(schema.unit.id, id))
    await run('give-up', { unitId: id, how: 'died', why: 'fell' })
    await run('undo', { unitId: id })
    expect(await viewOf(id)).toMatchObject({ ended: null, inService: true, inHand: false })
  })
  test('a death says its cause, and other hands get no passwords', async () => {
    const id = await arrive()
    expect(codeOf(await runCommand(db, 'give-up', { unitId: id, how: 'died', why: '  ' }))).toBe('why')
    expect(codeOf(await runCommand(db, 'give-up', { unitId: id, how: 'given-away', why: 'the school' }))).toBe(
      'wipe-first',
    )
    expect((await viewOf(id)).ended).toBeNull()
    await run('give-up', { unitId: id, how: 'given-away', why: 'the school', wiped: true })
    expect((await viewOf(id)).ended?.how).toBe('given-away')
  })
  test('its confirmed gates are asked again', async () => {
    const id = await arrive()
    await run('confirm-gate', { unitId: id, gate: 'mains-off', measured: '' })
    await run('give-up', { unitId: id, how: 'put-away' })
    expect((await viewOf(id)).gates).toEqual([])
  })
  test('how it ended is nothing else than what is offered', async () => {
    const id = await arrive()
    for (const how of ['sold', '', null])
      expect(codeOf(await runCommand(db, 'give-up', { unitId: id, how, why: 'x' }))).toBe('input')
    expect(codeOf(await runCommand(db, 'give-up', { unitId: id, how: 'died', why: 'x', more: 1 }))).toBe('input')
  })
})

test('a route loses those that died before they were proven, and no others', async () => {
  const route = 'module-off'
  const made = async (minutes: number, proven: boolean) => {
    const id = await arrive(route, 12)
    await db.update(schema.unitPace).set({ minutes, proven }).where(eq(schema.unitPace.unitId, id))
    return id
  }
  await made(60, true)
  const old = await made(50, true)
  const young = await made(5, false)
  const shelf = await made(6, false)
  await run('give-up', { unitId: old, how: 'died', why: 'after two years' })
  await run('give-up', { unitId: young, how: 'died', why: 'a lifted pad' })
  await run('give-up', { unitId: shelf, how: 'put-away' })
  expect((await costOfRoutes(db))[route]).toEqual({
    units: 2,
    died: 1,
    minutes: 55,
    taken: [60, 50],
    paid: 12,
    priced: 2,
  })
})
