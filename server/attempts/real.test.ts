import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { codeOf, freshDatabase, runner } from '../db/testing'
import { viewByNumber } from '../units/load'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)

test('what a virtual chip did changes nothing of a unit; over a bridge nobody can know, and it is kept as that', async () => {
  const unitId = (await run('create-unit', { number: 41, name: 'Pot lamp' })).id as string
  await run('confirm-gate', { unitId, gate: 'mains-off' })
  await run('confirm-gate', { unitId, gate: 'discharged', measured: '0.4', early: true })
  const read = { unitId, action: 'read', outcome: 'no-answer', minutes: 1, verify: 'none', verified: false }
  expect(codeOf(await runCommand(db, 'log-attempt', { ...read, real: false }))).toBe('virtual')
  expect((await viewByNumber(db, 41))?.reads).toEqual([])
  await run('log-attempt', { ...read, real: null })
  await run('confirm-gate', { unitId, gate: 'mains-off' })
  await run('confirm-gate', { unitId, gate: 'discharged', measured: '0.4', early: true })
  await run('log-attempt', read)
  expect((await viewByNumber(db, 41))?.reads.map((a) => a.real)).toEqual([true, null])
})
