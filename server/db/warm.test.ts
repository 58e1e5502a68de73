import { addressesRoom } from '../network/addresses'
import type { Db } from './client'
import { settleRipples } from './ripple'
import { freshDatabase, runner } from './testing'
import { lookInto, warmSoon } from './warm'

let own: Awaited<ReturnType<typeof freshDatabase>>
beforeEach(async () => {
  own = await freshDatabase()
})
afterEach(() => own.end())
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
/** Until `is`, at most five seconds. */
async function until(is: () => boolean): Promise<void> {
  for (let i = 0; i < 100 && !is(); i++) await pause(50)
  expect(is()).toBe(true)
}
/** As if a row of it had changed. */
const changed = () => own.db.execute('update list_token set updates = gen_random_uuid()')
const counted = () => {
  const room = jest.fn(async (source: Db) => (await source.execute('select 1 as one')).rows[0])
  return { room, times: () => room.mock.calls.length }
}

test('a room that somebody looked at is worked out again once for all that changes within a moment', async () => {
  const { room, times } = counted()
  expect(await lookInto(own.db, 'a room', 'updates', room)).toEqual({ one: 1 })
  for (let i = 0; i < 5; i++) warmSoon(own.db)
  expect(times()).toBe(1)
  await until(() => times() === 2)
  await pause(600)
  expect(times()).toBe(2)
  // Nothing of its list changed: whatever else did costs one look at the token.
  warmSoon(own.db)
  await pause(700)
  await own.db.execute('update list_token set addresses = gen_random_uuid()')
  warmSoon(own.db)
  await pause(700)
  expect(times()).toBe(2)
  await changed()
  warmSoon(own.db)
  await until(() => times() === 3)
})

test('what nobody looked at, or long ago, is left alone', async () => {
  const { room, times } = counted()
  warmSoon(own.db)
  await lookInto(own.db, 'a room', 'updates', room)
  const now = Date.now()
  const clock = jest.spyOn(Date, 'now').mockReturnValue(now + 11 * 60_000)
  try {
    warmSoon(own.db)
    await pause(700)
  } finally {
    clock.mockRestore()
  }
  warmSoon(own.db)
  await pause(700)
  expect(times()).toBe(1)
})

test('one that fails is in nobody’s way, and the next change is another try', async () => {
  const { room, times } = counted()
  await lookInto(own.db, 'a room', 'updates', room)
  room.mockRejectedValueOnce(new Error('the line was lost'))
  warmSoon(own.db)
  await until(() => times() === 2)
  await pause(50)
  warmSoon(own.db)
  await until(() => times() === 3)
  expect(await room.mock.results[2]?.value).toEqual({ one: 1 })
})

test('after a command the address plan is there with the change before anybody looks', async () => {
  const run = runner(() => own.db)
  const unitId = (await run('create-unit', { number: 1, name: 'Lamp' })).id as string
  await run('set-addresses', { subnet: '192.168.71.0/24' })
  // What is still on its way behind these two is over before anybody looks.
  await settleRipples(own.db)
  const plan = jest.fn(addressesRoom)
  await lookInto(own.db, 'addresses', 'addresses', plan)
  const data = { mac: 'b8:3c:d0:77:10:01', address: '192.168.71.20' }
  await run('save-step', { unitId, step: 'join', version: 0, data })
  await until(() => plan.mock.calls.length === 2)
  const warmed = await plan.mock.results[1]?.value
  expect(warmed.board.rows.map((r: { now: string }) => r.now)).toEqual(['192.168.71.20'])
  // The very same: nothing was worked out for this look.
  expect(await lookInto(own.db, 'addresses', 'addresses', addressesRoom)).toBe(warmed)
})
