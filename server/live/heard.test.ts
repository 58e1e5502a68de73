import { sql } from 'drizzle-orm'
import type { Db } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { heardAddresses, unitOnAir } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
const arrive = async (number: number) => (await run('create-unit', { number, name: `Lamp ${number}` })).id as string
const hear = (unitId: string, fields: object) =>
  db.execute(sql`insert into live_unit (unit_id, presence, flapping, state)
    values (${unitId}, 'online', false, ${JSON.stringify({ fields, heardAt: 1, restarts: 0, skewS: null, beats: [], changes: [] })}::jsonb)`)

test('who speaks on the air is a list of addresses: units with the MAC on record, and strangers who say theirs', async () => {
  const one = await arrive(1)
  await run('save-step', { unitId: one, step: 'join', version: 0, data: { mac: 'b8:3c:d0:77:1e:9a' } })
  await hear(one, { ip: { value: '192.168.71.44', at: 1 } })
  await hear(await arrive(2), { fw: { value: '9.4.1', at: 1 } })
  await db.execute(sql`insert into live_sender (prefix, first_at, last_at, messages, sample) values
    ('yard/lantern/plug-4f21', now(), now(), 3, '{"ip":"192.168.71.139","mac":"78:2E:41:0b:5d:12"}'),
    ('yard/lantern/silent', now(), now(), 1, 'on')`)
  expect(await heardAddresses(db)).toEqual([
    { mac: 'b8:3c:d0:77:1e:9a', ip: '192.168.71.44', name: 'lamp-1' },
    { mac: '78:2E:41:0b:5d:12', ip: '192.168.71.139', name: 'plug-4f21' },
  ])
})

test('from a press to its state: median and worst of the last twenty that were answered, and of no others', async () => {
  const id = await arrive(3)
  const wish = (n: number, ms: number, state = 'answered') =>
    db.execute(sql`insert into live_wish (id, unit_id, channel, value, by, made_at, state, sent_at, answered_at, note)
      values (gen_random_uuid(), ${id}, '1', true, 'x', now() - make_interval(mins => ${100 - n}), ${state}, now(), now() + make_interval(secs => ${ms / 1000}), '')`)
  expect((await unitOnAir(db, 3))?.response).toBeNull()
  for (let n = 0; n < 5; n++) await wish(n, 9000)
  for (let n = 5; n < 25; n++) await wish(n, 100 + 10 * (n - 5))
  await wish(26, 60_000, 'silent')
  expect((await unitOnAir(db, 3))?.response).toEqual({ n: 20, medianMs: 195, worstMs: 290 })
})
