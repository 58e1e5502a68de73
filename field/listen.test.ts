import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import fc from 'fast-check'
import mqtt from 'mqtt'
import pg from 'pg'
import { runCommand } from '@/server/commands'
import type { Db } from '@/server/db/client'
import { codeOf, freshDatabase, runner } from '@/server/db/testing'
import { linkRow, onAir, senders, unitOnAir } from '@/server/live/reads'
import { liveChannel, writeBatch } from '@/server/live/writes'
import { type StandInBroker, standInBroker } from '@/standins/air/broker'
import { VirtualUnitOnAir } from '@/standins/air/plug'
import { pauseBefore } from './broker'
import { AckJournal } from './journal'
import { Field, type FieldOptions } from './listen'

let db: Db
let url: string
let end: () => Promise<void>
const run = runner(() => db)
const folder = () => mkdtempSync(join(tmpdir(), 'fresh-coat-field-'))
let broker: StandInBroker
let fields: Field[] = []
let clients: { end: () => unknown }[] = []
const ids: Record<string, string> = {}

beforeAll(async () => {
  process.env.FRESH_COAT_DATA = folder()
  ;({ db, url, end } = await freshDatabase())
  for (const [number, name] of [
    [7, 'Glue pot'],
    [8, 'Foyer lamp'],
  ] as const)
    ids[name] = (await run('create-unit', { number, name })).id as string
  await run('set-site', {
    name: 'Lantern Yard',
    base: 'yard',
    slug: 'lantern',
    air: { broker: { host: '192.0.2.1', port: 1883 } },
  })
  await run('set-listener', { on: true, user: '', ca: '' })
})
afterAll(() => end())
beforeEach(async () => {
  broker = await standInBroker()
})
afterEach(async () => {
  await Promise.all(fields.map((f) => f.end()))
  for (const c of clients) await c.end()
  await broker.end().catch(() => {})
  fields = []
  clients = []
  for (const table of ['live_unit', 'live_happening', 'live_hour', 'live_day', 'live_sender', 'live_wish', 'live_link'])
    await db.execute(sql`delete from ${sql.identifier(table)}`)
})

async function listening(more: Partial<FieldOptions> = {}): Promise<Field> {
  const field = new Field({
    db,
    url,
    journal: new AckJournal(folder()),
    standIn: { host: '127.0.0.1', port: broker.port },
    ...more,
  })
  fields.push(field)
  await field.start()
  return field
}
/** Waits until what is read is as it should be; the last that was read otherwise. */
async function until<T>(read: () => Promise<T> | T, is: (value: T) => boolean): Promise<T> {
  for (let i = 0; ; i++) {
    const value = await read()
    if (is(value)) return value
    if (i > 150) throw new Error(`it never came: ${JSON.stringify(value)}`)
    await new Promise((done) => setTimeout(done, 60))
  }
}
const connected = () =>
  until(
    () => linkRow(db),
    (l) => l?.state === 'connected',
  )
async function speaker(more: mqtt.IClientOptions = {}) {
  const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${broker.port}`, { reconnectPeriod: 0, ...more })
  clients.push({ end: () => client.endAsync(true) })
  return (topic: string, text: string, retain = false) =>
    client.publishAsync(`yard/lantern/${topic}`, text, { qos: 1, retain })
}
const rowOf = async (number: number) => (await onAir(db, 0, 50)).find((r) => r.number === number)

test('what a unit says stands in the database, and pages are told whose it is', async () => {
  const listener = new pg.Client({ connectionString: url })
  await listener.connect()
  clients.push(listener)
  const told: string[] = []
  listener.on('notification', ({ payload }) => told.push(payload ?? ''))
  await listener.query(`listen ${liveChannel}`)
  await listening()
  await connected()
  const say = await speaker()
  await say('glue-pot/online', '1')
  await say('glue-pot/meter', '{"V":231,"I":0.9,"P":200,"E":1.5}')
  await say('glue-pot/1/state', 'true')
  const row = await until(
    () => rowOf(7),
    (r) => r?.fields['channel/1/on']?.value === true,
  )
  expect(row).toMatchObject({ presence: 'online', flapping: false })
  expect(row?.fields.P?.value).toBe(200)
  const page = await unitOnAir(db, 7)
  expect(page?.happenings.map((h) => h.kind).sort()).toEqual(['online', 'state'])
  expect(page?.hours.map((h) => [h.messages, h.meanW, h.mostW])).toEqual([[3, 200, 200]])
  expect(told).toContain('[7]')
})

test('a firmware whose topics are others is heard by the mapping of its profile, and only by it', async () => {
  const { id } = await run('add-profile', {
    name: 'Skerry',
    data: {
      families: ['LX106'],
      setupAddress: '',
      about: '',
      air: {
        will: false,
        rules: [
          {
            pattern: 'shed/{unit}/tell',
            periodic: true,
            fields: [
              { to: 'channel/1/on', ptr: '/out', true: ['ON'], false: ['OFF'] },
              { to: 'P', ptr: '/w', scale: 10 },
            ],
          },
        ],
      },
    },
  })
  await db.execute(sql`update unit_state set firmware = 'Skerry 2.3/full' where number = 7`)
  await listening()
  await connected()
  const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${broker.port}`)
  clients.push({ end: () => client.endAsync(true) })
  await client.publishAsync('shed/glue-pot/tell', '{"out":"ON","w":4.2}', { qos: 1 })
  const row = await until(
    () => rowOf(7),
    (r) => r?.fields.P !== undefined,
  )
  expect([row?.fields.P?.value, row?.fields['channel/1/on']?.value, row?.presence]).toEqual([42, true, 'online'])
  await client.publishAsync('shed/foyer-lamp/tell', '{"out":"ON","w":1}', { qos: 1 })
  await until(
    () => senders(db),
    (list) => list.some((s) => s.prefix === 'shed/foyer-lamp'),
  )
  await db.execute(sql`update unit_state set firmware = '' where number = 7`)
  await db.execute(sql`update profile set struck_at = now() where id = ${id as string}`)
})

test('who is in no plan is collected, and what is kept of it acts nowhere', async () => {
  await listening()
  await connected()
  const say = await speaker()
  await say('plug-4f21/online', '1')
  await say('plug-4f21/health', '<script>')
  const [s] = await until(
    () => senders(db),
    (list) => (list[0]?.messages ?? 0) >= 2,
  )
  expect(s).toMatchObject({ prefix: 'yard/lantern/plug-4f21', sample: '<script>' })
  await run('drop-sender', { prefix: 'yard/lantern/plug-4f21' })
  expect(await senders(db)).toEqual([])
})

describe('a press on a page', () => {
  const plug = () => {
    const unit = new VirtualUnitOnAir(
      `mqtt://127.0.0.1:${broker.port}`,
      { topic: 'yard/lantern/foyer-lamp', firmware: '1.4', channels: ['1'], watts: 60, everyS: 30, rssi: -60 },
      () => 0.1,
    )
    clients.push(unit)
  }
  const wish = async () => (await unitOnAir(db, 8))?.wishes[0]
  test('reaches the unit once, is kept by nobody, and what came back is measured', async () => {
    await run('save-step', { unitId: ids['Foyer lamp'], step: 'arrive', version: 0, data: { load: 'lamp' } })
    await listening()
    await connected()
    const kept: boolean[] = []
    const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${broker.port}`)
    clients.push({ end: () => client.endAsync(true) })
    client.on('message', (_topic, _payload, packet) => kept.push(packet.retain))
    await client.subscribeAsync('yard/lantern/foyer-lamp/1/set')
    plug()
    await until(
      () => rowOf(8),
      (r) => r?.presence === 'online',
    )
    await run('switch-unit', { unitId: ids['Foyer lamp'], channel: '1', on: false })
    const done = await until(wish, (w) => w?.state === 'answered')
    expect((done?.answeredAt ?? 0) - (done?.sentAt ?? 0)).toBeLessThan(3000)
    expect(kept).toEqual([false])
  })
  test('on what nobody knows, or what can hurt, asks first', async () => {
    const input = { unitId: ids['Glue pot'], channel: '1', on: true }
    expect(codeOf(await runCommand(db, 'switch-unit', input))).toBe('not-sure')
    expect(codeOf(await runCommand(db, 'switch-unit', { ...input, sure: true }))).toBe('ok')
  })
  test('that was not sent in time is never sent', async () => {
    await run('switch-unit', { unitId: ids['Foyer lamp'], channel: '1', on: true })
    await db.execute(sql`update live_wish set made_at = now() - interval '11 seconds'`)
    const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${broker.port}`)
    clients.push({ end: () => client.endAsync(true) })
    let sent = 0
    client.on('message', () => sent++)
    await client.subscribeAsync('yard/lantern/+/+/set')
    await listening()
    await until(wish, (w) => w?.state === 'late')
    expect(sent).toBe(0)
  })
})

test('two batches with one number are one: what was written and not heard of is written once', async () => {
  const hours = [
    {
      unit: ids['Glue pot'] as string,
      hour: 0,
      messages: 5,
      readings: 0,
      sumW: 0,
      mostW: 0,
      firstKWh: null,
      lastKWh: null,
    },
  ]
  const drained = { units: [], happenings: [], hours, senders: [], dropped: { happenings: 2 } }
  const link = { state: 'connected' as const, broker: 'b', message: '', since: 0, counts: {}, refused: null }
  expect(await writeBatch(db, 4, drained, link)).toBe(true)
  expect(await writeBatch(db, 4, drained, link)).toBe(false)
  expect(await writeBatch(db, 5, drained, link)).toBe(true)
  const [row] = (await db.execute(sql`select messages from live_hour`)).rows as { messages: number }[]
  expect([row?.messages, (await linkRow(db))?.dropped]).toEqual([10, { happenings: 4 }])
  await run('seen-dropped', {})
  expect((await linkRow(db))?.dropped).toEqual({})
})

test('whatever hours come in whatever batches, a day counts each hour of it once', async () => {
  const day = Date.parse('2026-06-01T00:00:00Z')
  const link = { state: 'connected' as const, broker: '', message: '', since: day, counts: {}, refused: null }
  const hour = fc.record({ unit: fc.constantFrom(...Object.values(ids)), at: fc.nat(71) })
  const batch = fc.uniqueArray(hour, { maxLength: 12, selector: (h) => `${h.unit} ${h.at}` })
  let number = 100
  await fc.assert(
    fc.asyncProperty(fc.array(batch, { maxLength: 5 }), async (batches) => {
      await db.execute(sql`delete from live_hour`)
      await db.execute(sql`delete from live_day`)
      for (const hours of batches)
        await writeBatch(
          db,
          number++,
          {
            ...{ units: [], happenings: [], senders: [], dropped: {} },
            hours: hours.map(({ unit, at }) => ({
              ...{ unit, hour: day + at * 3_600_000, messages: 1, readings: 0, sumW: 0, mostW: 0 },
              ...{ firstKWh: null, lastKWh: null },
            })),
          },
          link,
        )
      const days = await db.execute(sql`select unit_id, day::text, hours from live_day order by 1, 2`)
      const counted = await db.execute(
        sql`select unit_id, (hour at time zone 'UTC')::date::text as day, count(*)::int as hours from live_hour group by 1, 2 order by 1, 2`,
      )
      expect(days.rows).toEqual(counted.rows)
    }),
    { numRuns: 20 },
  )
})

/** A database that can be taken away. */
function fickle(): { db: Db; away: (is: boolean) => void } {
  let away = false
  const guarded = new Proxy(db, {
    get(target, name) {
      const value = Reflect.get(target, name) as unknown
      if (typeof value !== 'function') return value
      return (...args: unknown[]) => {
        if (away) throw new Error('the database is away')
        return (value as (...a: unknown[]) => unknown).apply(target, args)
      }
    },
  })
  return {
    db: guarded,
    away: (is) => {
      away = is
    },
  }
}

describe('with the database away', () => {
  test('nothing of it is lost, and nothing doubled when it is back', async () => {
    const { db: guarded, away } = fickle()
    await listening({ db: guarded })
    await connected()
    const say = await speaker()
    away(true)
    for (let i = 0; i < 20; i++) await say('glue-pot/1/event', '"press"')
    await new Promise((done) => setTimeout(done, 1200))
    await say('glue-pot/1/state', 'true')
    away(false)
    await until(
      () => rowOf(7),
      (r) => r?.fields['channel/1/on']?.value === true,
    )
    const presses = async () =>
      Number((await db.execute(sql`select count(*) n from live_happening where kind = 'event'`)).rows[0]?.n)
    expect(await until(presses, (n) => n >= 20)).toBe(20)
  })
  test('and killed: what was acknowledged is found again by the next one, once', async () => {
    const { db: guarded, away } = fickle()
    const place = folder()
    const first = await listening({ db: guarded, journal: new AckJournal(place) })
    await connected()
    const say = await speaker()
    away(true)
    for (let i = 0; i < 7; i++) await say('glue-pot/1/event', '"press"')
    await until(
      () => readdirSync(place).length,
      (n) => n > 0,
    )
    // Killed: it never writes again, and says nothing to its broker.
    const noted = readdirSync(place)
    fields = fields.filter((f) => f !== first)
    const dead = first as unknown as {
      notices: pg.Client
      timer: NodeJS.Timeout
      soon: NodeJS.Timeout
      line: { ended: boolean; client: { stream: { destroy: () => void } } }
    }
    clearInterval(dead.timer)
    clearInterval(dead.soon)
    await dead.notices.end()
    dead.line.ended = true
    dead.line.client.stream.destroy()
    expect(noted.length).toBeGreaterThan(0)
    await listening({ journal: new AckJournal(place) })
    const presses = async () =>
      Number((await db.execute(sql`select count(*) n from live_happening where kind = 'event'`)).rows[0]?.n)
    expect(await until(presses, (n) => n >= 7)).toBe(7)
    await until(
      () => readdirSync(place),
      (files) => files.length === 0,
    )
  })
})

test('two starts on one database: one listens, and the other takes its place when it ends', async () => {
  const first = await listening()
  await connected()
  const second = new Field({
    db,
    url,
    journal: new AckJournal(folder()),
    standIn: { host: '127.0.0.1', port: broker.port },
  })
  fields.push(second)
  const started = second.start()
  await new Promise((done) => setTimeout(done, 700))
  expect(second.health()).toMatchObject({ state: 'off', batch: 1 })
  await first.end()
  await started
  await until(
    () => second.health() as { state: string },
    (h) => h.state === 'connected',
  )
})

test('a noted message that was cut in half was never acknowledged, and is passed over', () => {
  const place = folder()
  const journal = new AckJournal(place)
  const m = { topic: 'a/b', bytes: Buffer.from('1'), retained: false, dup: false, at: 5 }
  journal.note(3, m)
  journal.note(4, { ...m, at: 6 })
  writeFileSync(join(place, '5.log'), '{"topic":"a/b","byt')
  expect(journal.after(2)).toMatchObject({ messages: [{ at: 5 }, { at: 6 }], next: 6 })
  expect(journal.after(3).messages.map((x) => x.at)).toEqual([6])
  journal.written(5)
  expect(readdirSync(place)).toEqual([])
})

test('a broker that goes away and comes back is found again, and its kept states with it', async () => {
  await listening()
  await connected()
  const { port } = broker
  await broker.end()
  await until(
    () => linkRow(db),
    (l) => l?.state === 'connecting',
  )
  broker = await standInBroker(port)
  const say = await speaker()
  await say('glue-pot/1/state', 'true', true)
  await connected()
  await until(
    () => rowOf(7),
    (r) => r?.fields['channel/1/on']?.value === true,
  )
})

test('a password that the broker refuses is said in words', async () => {
  await broker.end()
  broker = await standInBroker(0, { name: 'yard', password: 'paper moon' })
  await run('set-listener', { on: true, user: 'yard', ca: '', password: 'wrong' })
  await listening()
  const link = await until(
    () => linkRow(db),
    (l) => l?.state === 'refused',
  )
  expect(link?.message).toMatch(/refuses the user or the password/)
  await run('set-listener', { on: true, user: 'yard', ca: '', password: 'paper moon' })
  await connected()
  await run('set-listener', { on: true, user: '', ca: '', password: '' })
})

test('until a person has said so, nothing is contacted', async () => {
  await run('set-listener', { on: false, user: '', ca: '' })
  await listening()
  const link = await until(
    () => linkRow(db),
    (l) => l !== null,
  )
  expect(link?.state).toBe('off')
  expect(codeOf(await runCommand(db, 'switch-unit', { unitId: ids['Foyer lamp'], channel: '1', on: true }))).toBe(
    'not-listening',
  )
  await run('set-listener', { on: true, user: '', ca: '' })
  await connected()
})

test('the pause before the next try doubles up to a minute, and is never the same for all', () => {
  expect([0, 1, 2, 9].map((n) => pauseBefore(n, () => 0.5))).toEqual([1000, 2000, 4000, 60_000])
  expect([pauseBefore(0, () => 0), pauseBefore(0, () => 1)]).toEqual([800, 1200])
})
