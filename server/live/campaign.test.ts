import { sql } from 'drizzle-orm'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { codeOf, freshDatabase, runner } from '../db/testing'
import { campaignOf, campaignUnits, firmwareInService, lastWords } from './campaign'
import { updatesRoom, updateUnits } from './updates'

let db: Db
let end: () => Promise<void>
const run = runner(() => db)
const ids: string[] = []
const policy = {
  firmware: 'Plainsong',
  version: '1.5.1',
  start: '2026-06-01T10:00:00Z',
  utcOffset: 'Z',
  rings: [{ name: 'Trial', count: 1 }, { name: 'The rest' }],
}
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
  for (const number of [1, 2, 3]) {
    const id = (await run('create-unit', { number, name: `Lamp ${number}` })).id as string
    ids.push(id)
    await run('save-step', { unitId: id, step: 'arrive', version: 0, data: { load: number === 3 ? 'heater' : 'lamp' } })
  }
  // As if all of them had been proven, whatever is worked out anew meanwhile.
  await db.execute(sql`create function proven() returns trigger language plpgsql as
    $$ begin new.in_service := true; new.firmware := 'Plainsong 1.4.0/full'; new.firmware_name := 'Plainsong';
      new.installed := '1.4.0'; return new; end $$`)
  await db.execute(
    sql`create trigger proven before insert or update on unit_state for each row execute function proven()`,
  )
  await db.execute(sql`update unit_state set in_service = true`)
})
afterAll(() => end())
const begin = (i: number, more = {}) => runCommand(db, 'begin-update', { unitId: ids[i], ...more })
const say = (i: number, ok: boolean, note = '') => run('say-update', { unitId: ids[i], ok, note })

test('units in service with the firmware are in it, with what runs on them; what is heard counts before the record', async () => {
  expect(await firmwareInService(db)).toEqual([{ name: 'Plainsong', units: 3 }])
  const running = async (firmware: string) =>
    [...(await campaignUnits(db, firmware)).values()].map((u) => [u.number, u.installed])
  expect(await running('Plainsong')).toEqual([
    [1, '1.4.0'],
    [2, '1.4.0'],
    [3, '1.4.0'],
  ])
  expect(await running('Plain')).toEqual([])
  const state = { fields: { fw: { value: '1.4.2', at: 5 } } }
  await db.execute(
    sql`insert into live_unit (unit_id, presence, flapping, state) values (${ids[1]}, 'online', false, ${JSON.stringify(state)}::jsonb)`,
  )
  expect((await running('Plainsong'))[1]).toEqual([2, '1.4.2'])
  // One whose update was not begun is not judged by its last word; what is no unit is asked for in vain.
  const words = (begun: string[]) =>
    lastWords(db, { begun: Object.fromEntries(begun.map((one) => [one, { at: policy.start, before: '' }])) })
  expect(await words([ids[1] as string])).toEqual(
    new Map([[ids[1], { heard: { version: '1.4.2', at: 5 }, presence: 'online' }]]),
  )
  for (const begun of [[], ['nobody'], [ids[0] as string]]) expect((await words(begun)).size).toBe(0)
})

test('without a plan nothing begins; with one, only whose turn it is, and what can hurt only when somebody is sure', async () => {
  expect(codeOf(await begin(0))).toBe('no-campaign')
  await run('set-campaign', policy)
  expect(codeOf(await begin(1))).toBe('not-yet')
  expect(codeOf(await begin(0))).toBe('ok')
  expect((await campaignOf(db))?.begun[ids[0] as string]?.before).toBe('1.4.0')
  await say(0, true)
  expect(codeOf(await begin(1))).toBe('ok')
  expect(codeOf(await begin(2))).toBe('not-sure')
  expect(codeOf(await begin(2, { sure: true }))).toBe('ok')
})

test('a failure that a person saw stops the ring; begun once more, what was said is taken back', async () => {
  await run('set-campaign', { ...policy, version: '1.6.0' })
  expect(codeOf(await begin(0))).toBe('ok')
  await say(0, false, 'its relay clicks by itself')
  expect(codeOf(await begin(1))).toBe('not-yet')
  await run('set-campaign', { ...policy, version: '1.6.0', maxFailures: 1 })
  expect((await campaignOf(db))?.said[ids[0] as string]?.ok).toBe(false)
  expect(codeOf(await begin(1))).toBe('ok')
  await run('begin-update', { unitId: ids[0] })
  expect((await campaignOf(db))?.said).toEqual({})
})

test('the room has what it draws with its names, and any unit that is asked for', async () => {
  await run('set-campaign', {
    ...policy,
    version: '1.6.0',
    units: { [ids[1] as string]: { canary: true, after: [ids[2]] } },
  })
  const at = (chosen: number | null) => updatesRoom(db, new Date('2026-06-01T10:00:00Z'), chosen)
  const { board, names, special, firmwares } = await at(3)
  expect(firmwares).toEqual([{ name: 'Plainsong', units: 3 }])
  expect(board?.rings.flatMap((r) => r.units.map((u) => names[u.number])).sort()).toEqual([
    'Lamp 1',
    'Lamp 2',
    'Lamp 3',
  ])
  // The one of whom something was said, and the one it waits for.
  expect(special.map((u) => [u.number, u.name])).toEqual([
    [2, 'Lamp 2'],
    [3, 'Lamp 3'],
  ])
  expect(board?.chosen).toMatchObject({ number: 3, installed: '1.4.0' })
  expect((await at(77)).board?.chosen).toBeNull()
})

test('a form gets every unit of one firmware, and none of another or of none', async () => {
  expect((await updateUnits(db, 'Plainsong')).map((u) => [u.number, u.name, u.bridge])).toEqual([
    [1, 'Lamp 1', false],
    [2, 'Lamp 2', false],
    [3, 'Lamp 3', false],
  ])
  expect(await updateUnits(db, 'Plain')).toEqual([])
  expect(await updateUnits(db, '')).toEqual([])
})

test('what was heard is there as soon as it is written, whatever else of the state is new', async () => {
  const hear = (fields: object) =>
    db.execute(sql`insert into live_unit (unit_id, presence, flapping, state) values (${ids[0]}, 'online', false, ${JSON.stringify({ fields })}::jsonb)
      on conflict (unit_id) do update set state = excluded.state`)
  const begun = { [ids[0] as string]: { at: policy.start, before: '' } }
  const heard = async () => (await lastWords(db, { begun })).get(ids[0] as string)?.heard
  await hear({ fw: { value: '1.6.0', at: 7 } })
  expect(await heard()).toEqual({ version: '1.6.0', at: 7 })
  // What is no text is no version.
  await hear({ fw: { value: 9, at: 8 } })
  expect(await heard()).toBeNull()
  await hear({})
  expect(await heard()).toBeNull()
})

test('another version is another update: what was begun for the last one says nothing of it', async () => {
  await run('set-campaign', { ...policy, version: '1.7.0' })
  expect(await campaignOf(db)).toMatchObject({ begun: {}, said: {} })
  await run('end-campaign', {})
  expect(await campaignOf(db)).toBeNull()
})

test.each([
  ['a version that is none', { version: 'newest' }],
  ['no ring', { rings: [] }],
  ['a window of no day', { window: { days: [], from: '22:00', to: '23:00' } }],
  ['an hour that is none', { window: { days: ['mon'], from: '25:00', to: '23:00' } }],
])('%s is refused', async (_, wrong) =>
  expect(codeOf(await runCommand(db, 'set-campaign', { ...policy, ...wrong }))).not.toBe('ok'),
)
