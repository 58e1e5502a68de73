import { sql } from 'drizzle-orm'
import fc from 'fast-check'
import type { Db } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { releasesHeard } from './releases'
import { happeningDays } from './writes'

let db: Db
let end: () => Promise<void>
const run = runner(() => db)
const ids: string[] = []
const says = (fw: string) => ({ fields: { fw: { value: fw, at: 1 } } })
const happened = (i: number, at: string, kind: string, data: object = {}) =>
  db.execute(
    sql`insert into live_happening (unit_id, at, kind, data) values (${ids[i]}, ${at}, ${kind}, ${JSON.stringify(data)}::jsonb)`,
  )
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
  for (const number of [1, 2, 3]) ids.push((await run('create-unit', { number, name: `Lamp ${number}` })).id as string)
  await db.execute(sql`update unit_state set in_service = number < 3, firmware = 'Plainsong 1.4.0/full',
    firmware_name = 'Plainsong'`)
  for (const [i, fw] of ['1.5.0', '1.4.0', '1.4.0'].entries())
    await db.execute(sql`insert into live_unit (unit_id, presence, flapping, state)
      values (${ids[i]}, 'online', false, ${JSON.stringify(says(fw))}::jsonb)`)
  const hours = (i: number, from: string, count: number) =>
    db.execute(sql`insert into live_hour (unit_id, hour, messages, readings, sum_w, most_w)
      select ${ids[i]}, ${from}::timestamptz + make_interval(hours => n), 1, 0, 0, 0 from generate_series(0, ${count - 1}::int) n`)
  await hours(0, '2026-06-01T00:00:00Z', 72)
  await hours(1, '2026-06-01T00:00:00Z', 24)
  await hours(2, '2026-06-01T00:00:00Z', 24)
  await db.execute(
    sql`insert into live_day select unit_id, (hour at time zone 'UTC')::date, count(*) from live_hour group by 1, 2`,
  )
  await happened(0, '2026-06-02T00:00:00Z', 'update', { field: 'fw', value: '1.5.0', was: '1.4.0' })
  await happened(0, '2026-06-01T12:00:00Z', 'restart')
  await happened(0, '2026-06-03T12:00:00Z', 'restart')
  await happened(1, '2026-06-01T18:00:00Z', 'restart')
})
afterAll(() => end())
const now = new Date('2026-06-05T00:00:00Z')

test('hours and restarts count for what a unit ran then: before its update, after it, or all the time', async () => {
  const found = await releasesHeard(db, 'Plainsong', now)
  expect(found.map((r) => r.version)).toEqual(['1.4.0', '1.5.0'])
  const [old, fresh] = found
  expect(old?.units).toHaveLength(2)
  expect(old?.units.find((u) => u.id === ids[0])).toEqual({ id: ids[0], days: 1, restarts: 1 })
  expect(old?.units.find((u) => u.id === ids[1])).toEqual({ id: ids[1], days: 1, restarts: 1 })
  expect(fresh?.units).toEqual([{ id: ids[0], days: 2, restarts: 1 }])
})
test('no hour counts whose restarts are forgotten by now, or a release would look steadier than it is', async () => {
  const later = (at: string) => new Date(Date.parse(at) + happeningDays * 86_400_000)
  const [only, ...others] = await releasesHeard(db, 'Plainsong', later('2026-06-03T00:00:00Z'))
  expect(others).toEqual([])
  expect(only).toEqual({ version: '1.5.0', units: [{ id: ids[0], days: 1, restarts: 1 }] })
  // A day of which a part is forgotten counts not at all.
  expect(await releasesHeard(db, 'Plainsong', later('2026-06-03T00:00:01Z'))).toEqual([])
})
test('whenever updates came, days and hours together count what the hours alone would', () =>
  fc.assert(
    fc.asyncProperty(fc.uniqueArray(fc.integer({ min: 1, max: 95 * 60 }), { maxLength: 4 }), async (minutes) => {
      const first = Date.parse('2026-06-01T00:00:00Z')
      const at = minutes.sort((a, b) => a - b).map((m) => first + m * 60_000)
      await db.execute(sql`delete from live_happening where unit_id = ${ids[0]} and kind = 'update'`)
      for (const [i, ms] of at.entries())
        await happened(0, new Date(ms).toISOString(), 'update', { value: `2.${i + 1}`, was: `2.${i}` })
      await db.execute(
        sql`update live_unit set state = ${JSON.stringify(says(`2.${at.length}`))}::jsonb where unit_id = ${ids[0]}`,
      )
      const expected = Array.from({ length: at.length + 1 }, (_, i) => {
        const since = Math.floor((at[i - 1] ?? first) / 3_600_000) * 3_600_000
        const until = at[i] ?? Number.POSITIVE_INFINITY
        const hours = Array.from({ length: 72 }, (_, h) => first + h * 3_600_000).filter((h) => h >= since && h < until)
        return [`2.${i}`, hours.length / 24] as const
      }).filter(([, days]) => days > 0)
      const found = (await releasesHeard(db, 'Plainsong', now)).flatMap((r) => {
        const own = r.units.find((u) => u.id === ids[0])
        return own ? [[r.version, own.days]] : []
      })
      expect(found).toEqual(expected)
    }),
    { numRuns: 40 },
  ))
test('only units in service, and only of that firmware', async () => {
  expect(await releasesHeard(db, 'Plain')).toEqual([])
  expect(await releasesHeard(db, 'Plain%')).toEqual([])
})
