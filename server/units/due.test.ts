import { dayPlus, dueGroups } from '@fresh-coat/core/fleet/due'
import { eq, sql } from 'drizzle-orm'
import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { freshDatabase, runner } from '../db/testing'
import { dueToShow, everythingDue } from './due'

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

test('of very many a page gets the first of each group and of each day it draws, and counts all of them', async () => {
  const { db: many, end: over } = await freshDatabase()
  try {
    // 300 units from 100 days ago to 199 days from now, and 40 on one day.
    await runner(() => many)('create-unit', { number: 1, name: 'Lamp 1' })
    await many.execute(sql`insert into unit select (jsonb_populate_record(u, jsonb_build_object('id', gen_random_uuid(), 'number', n,
      'name', 'Lamp ' || n, 'slug', 'lamp-' || n))).* from unit u, generate_series(2, 340) n`)
    await many.execute(sql`insert into unit_state select (jsonb_populate_record(s, jsonb_build_object('unit_id', u.id,
      'number', u.number))).* from unit_state s, unit u where u.number > 1`)
    await many.execute(sql`update unit_state set due_what = 'Meter re-check',
      due = case when number <= 300 then date '2026-11-28' + (number - 101) else date '2026-12-20' end`)
    const days = Array.from({ length: 42 }, (_, i) => dayPlus('2026-11-23', i))
    const { things, perDay } = await dueToShow(many, now, { inGroup: 5, inDay: 2, days })
    const all = await everythingDue(many, now)
    expect(Object.values(perDay).reduce((n, m) => n + m, 0)).toBe(all.length)
    expect(perDay['2026-12-20']).toBe(41)
    const groups = dueGroups({ things, perDay }, '2026-11-28', 5)
    const wanted = dueGroups({ things: all, perDay }, '2026-11-28', 5)
    expect(groups).toEqual(wanted)
    for (const day of days)
      expect(things.filter((t) => t.day === day).length).toBeGreaterThanOrEqual(Math.min(2, perDay[day] ?? 0))
    // Nothing twice, and no more than was asked for.
    expect(new Set(things.map((t) => t.href)).size).toBe(things.length)
    expect(things.length).toBeLessThanOrEqual(3 * 5 + 42 * 2)
  } finally {
    await over()
  }
})
