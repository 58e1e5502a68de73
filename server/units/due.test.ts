import { eq } from 'drizzle-orm'
import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { freshDatabase, runner } from '../db/testing'
import { everythingDue } from './due'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
const now = new Date('2026-11-28T12:00:00Z')
const due = () => everythingDue(db, now)

test('where nothing is due, nothing is', async () => expect(await due()).toEqual([]))

test('units come by their day, each with the step that it is due at', async () => {
  const arrive = async (number: number) => (await run('create-unit', { number, name: `Lamp ${number}` })).id as string
  const [one, two] = [await arrive(1), await arrive(2)]
  const set = (id: string, day: string, dueWhat: string) =>
    db.update(schema.unitState).set({ due: day, dueWhat }).where(eq(schema.unitState.unitId, id))
  await set(one, '2027-05-01', 'Meter re-check')
  await set(two, '2026-12-24', 'Restore test of the stock firmware')
  expect((await due()).map((t) => [t.day, t.of, t.href, t.kind])).toEqual([
    ['2026-12-24', '02 Lamp 2', '/units/2/backup', 'unit'],
    ['2027-05-01', '01 Lamp 1', '/units/1/meter', 'unit'],
  ])
  await run('give-up', { unitId: two, how: 'put-away' })
  expect((await due()).map((t) => t.of)).toEqual(['01 Lamp 1'])
})

test('a reference is due by its own checks, once somebody said how often', async () => {
  const meter = (everyMonths: number | null) => ({
    gainPct: 0.5,
    digits: 2,
    resolution: 0.1,
    checks: [{ on: '2026-01-31', note: '' }],
    everyMonths,
  })
  await run('add-kit', { kind: 'instrument', name: 'Outlet meter', data: meter(13) })
  await run('add-kit', { kind: 'instrument', name: 'Old meter', data: meter(null) })
  expect((await due()).filter((t) => t.kind === 'reference')).toEqual([
    { day: '2027-02-28', what: 'Its own check', of: 'Outlet meter', href: '/meters', kind: 'reference' },
  ])
})

test('a planned update without a unit in service has no ring that is due', async () => {
  await run('set-campaign', {
    firmware: 'Plainsong',
    version: '9.5.0',
    start: '2026-12-01T10:00:00Z',
    utcOffset: 'Z',
    rings: [{ name: 'Trial', count: 1 }, { name: 'The rest' }],
  })
  expect((await due()).filter((t) => t.kind === 'update')).toEqual([])
})
