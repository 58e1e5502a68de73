import { usualAssumptions } from '@fresh-coat/core/calculators/routes-of-site'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { routeAssumptionsOf } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)

test('what a place assumes of its routes is typical until somebody says otherwise, and stays what was said', async () => {
  expect(await routeAssumptionsOf(db)).toEqual(usualAssumptions)
  const wires = { ...usualAssumptions.routes['wires-in-place'], unitPrice: 4.5 }
  const assumed = { ...usualAssumptions, must: ['noAccount'], routes: { 'wires-in-place': wires } }
  await run('set-route-costs', { assumed })
  expect(await routeAssumptionsOf(db)).toMatchObject({
    must: ['noAccount'],
    routes: { 'wires-in-place': { unitPrice: 4.5 } },
  })
  await run('set-route-costs', { assumed: { ...assumed, must: [] } })
  expect((await routeAssumptionsOf(db)).must).toEqual([])
})

test('figures that are none are refused, and nothing changes', async () => {
  const before = await routeAssumptionsOf(db)
  for (const wrong of [{ failPct: 96 }, { learningRate: 0.2 }, { unitPrice: -1 }, { minutesFirst: 0 }]) {
    const assumed = { must: [], routes: { built: wrong } }
    expect((await runCommand(db, 'set-route-costs', { assumed })).ok).toBe(false)
  }
  expect((await runCommand(db, 'set-route-costs', { assumed: { must: ['cheap'], routes: {} } })).ok).toBe(false)
  expect(await routeAssumptionsOf(db)).toEqual(before)
})
