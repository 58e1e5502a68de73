import { sql } from 'drizzle-orm'
import type { Db } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { releasesHeard } from './releases'

let db: Db
let end: () => Promise<void>
const run = runner(() => db)
const ids: string[] = []
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
  for (const number of [1, 2, 3]) ids.push((await run('create-unit', { number, name: `Lamp ${number}` })).id as string)
  await db.execute(sql`update unit_state set in_service = number < 3, firmware = 'Plainsong 1.4.0/full',
    firmware_name = 'Plainsong'`)
  const says = (i: number, fw: string) =>
    db.execute(sql`insert into live_unit (unit_id, presence, flapping, state)
      values (${ids[i]}, 'online', false, ${JSON.stringify({ fields: { fw: { value: fw, at: 1 } } })}::jsonb)`)
  await says(0, '1.5.0')
  await says(1, '1.4.0')
  await says(2, '1.4.0')
  const hours = (i: number, from: string, count: number) =>
    db.execute(sql`insert into live_hour (unit_id, hour, messages, readings, sum_w, most_w)
      select ${ids[i]}, ${from}::timestamptz + make_interval(hours => n), 1, 0, 0, 0 from generate_series(0, ${count - 1}::int) n`)
  await hours(0, '2026-06-01T00:00:00Z', 72)
  await hours(1, '2026-06-01T00:00:00Z', 24)
  await hours(2, '2026-06-01T00:00:00Z', 24)
  const happened = (i: number, at: string, kind: string, data: object = {}) =>
    db.execute(
      sql`insert into live_happening (unit_id, at, kind, data) values (${ids[i]}, ${at}, ${kind}, ${JSON.stringify(data)}::jsonb)`,
    )
  await happened(0, '2026-06-02T00:00:00Z', 'update', { field: 'fw', value: '1.5.0', was: '1.4.0' })
  await happened(0, '2026-06-01T12:00:00Z', 'restart')
  await happened(0, '2026-06-03T12:00:00Z', 'restart')
  await happened(1, '2026-06-01T18:00:00Z', 'restart')
})
afterAll(() => end())

test('hours and restarts count for what a unit ran then: before its update, after it, or all the time', async () => {
  const found = await releasesHeard(db, 'Plainsong')
  expect(found.map((r) => r.version)).toEqual(['1.4.0', '1.5.0'])
  const [old, fresh] = found
  expect(old?.units).toHaveLength(2)
  expect(old?.units.find((u) => u.id === ids[0])).toEqual({ id: ids[0], days: 1, restarts: 1 })
  expect(old?.units.find((u) => u.id === ids[1])).toEqual({ id: ids[1], days: 1, restarts: 1 })
  expect(fresh?.units).toEqual([{ id: ids[0], days: 2, restarts: 1 }])
})
test('only units in service, and only of that firmware', async () => {
  expect(await releasesHeard(db, 'Plain')).toEqual([])
  expect(await releasesHeard(db, 'Plain%')).toEqual([])
})
