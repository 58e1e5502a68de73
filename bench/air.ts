import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Listener } from '@fresh-coat/core/live/listener'
import { ownMapping, readMapping } from '@fresh-coat/core/live/mapping'
import { sql } from 'drizzle-orm'
import mqtt from 'mqtt'
import { AckJournal } from '../field/journal'
import { Field } from '../field/listen'
import { runCommand } from '../server/commands'
import { connect } from '../server/db/client'
import { migrateDatabase } from '../server/db/migrate'
import { onAirNews } from '../server/live/feed'
import { onAir, unitOnAir } from '../server/live/reads'
import { networkRoom } from '../server/network/room'

/**
 * The listener under load: what one core takes of messages alone, and the whole way from a broker into the database, with the last
 * state of every unit compared afterwards. DATABASE_URL names an empty database of the bench's own.
 */
const units = Number(process.argv[2] ?? 500)
const aSecond = Number(process.argv[3] ?? 10_000)
const seconds = Number(process.argv[4] ?? 20)

const decoder = new TextDecoder('utf-8', { fatal: true })
const listener = new Listener((bytes) => decoder.decode(bytes))
listener.plan(
  [readMapping(ownMapping)],
  Array.from({ length: units }, (_, i) => ({ id: `u${i}`, slug: `lamp-${i}`, mapping: 0 })),
)
const bytes = Buffer.from('{"V":231.2,"I":0.42,"P":96.5,"E":12.345}')
const many = 300_000
const from = performance.now()
for (let i = 0; i < many; i++)
  listener.take({
    topic: `yard/lantern/lamp-${i % units}/meter`,
    bytes,
    retained: false,
    dup: false,
    at: (i / many) * 60_000,
  })
const alone = many / ((performance.now() - from) / 1000)
console.log(`\nthe listener alone: ${Math.round(alone).toLocaleString('en')} messages a second on one core`)

const url = process.env.DATABASE_URL as string
const { db, end } = connect(url)
await migrateDatabase(db)
process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-air-'))
await runCommand(db, 'set-site', {
  name: 'Bench',
  base: 'yard',
  slug: 'lantern',
  air: { broker: { host: '127.0.0.1', port: 1 } },
})
await runCommand(db, 'set-listener', { on: true, user: '', ca: '' })
const [{ n: there }] = (await db.execute(sql`select count(*)::int as n from unit`)).rows as [{ n: number }]
for (let i = there; i < units; i++) await runCommand(db, 'create-unit', { number: i + 1, name: `Lamp ${i}` })

/** Broker and speakers in a process of their own: the core that is measured hears only. */
const speaker = spawn(
  process.execPath,
  ['--import', 'tsx', 'bench/speaker.ts', String(units), String(aSecond), String(seconds)],
  {
    stdio: ['pipe', 'pipe', 'inherit'],
  },
)
let said = ''
speaker.stdout.on('data', (d: Buffer) => {
  said += d.toString()
})
const until = async (is: () => boolean | Promise<boolean>, ms: number) => {
  const stop = Date.now() + ms
  while (!(await is())) {
    if (Date.now() > stop) return false
    await new Promise((done) => setTimeout(done, 50))
  }
  return true
}
await until(() => said.includes('port '), 20_000)
const port = Number(/port (\d+)/.exec(said)?.[1])
const field = new Field({
  db,
  url,
  journal: new AckJournal(join(process.env.FRESH_COAT_DATA, 'field')),
  standIn: { host: '127.0.0.1', port },
})
await field.start()
await until(
  async () =>
    ((await db.execute(sql`select state from live_link`)).rows[0] as { state?: string })?.state === 'connected',
  10_000,
)
const cpu = process.cpuUsage()
speaker.stdin.write('go\n')
await until(() => said.includes('done '), (seconds + 60) * 1000)
const sent = Number(/done (\d+)/.exec(said)?.[1])
const wanted = JSON.parse(/last (.*)/.exec(said)?.[1] ?? '{}') as Record<string, boolean>
const differing = async () => {
  const found = await db.execute(
    sql`select u.number, l.state -> 'fields' -> 'channel/1/on' ->> 'value' as on from unit u left join live_unit l on l.unit_id = u.id`,
  )
  return (found.rows as { number: number; on: string | null }[]).filter(
    (r) => r.number <= units && r.on !== String(wanted[r.number - 1]),
  ).length
}
await until(async () => (await differing()) === 0, 20_000)
const used = process.cpuUsage(cpu)
const { counts } = field.health() as { counts: Record<string, number> }
console.log(
  `over a broker: ${sent.toLocaleString('en')} messages of ${units} units in ${seconds} s; the core was busy ${Math.round((used.user + used.system) / 1e4 / seconds)} %; taken ${(counts.taken ?? 0).toLocaleString('en')}, too many of one unit ${(counts.rate ?? 0).toLocaleString('en')}; units whose last state differs: ${await differing()}`,
)
// What was written is put in order first: the flood is over, and a page is asked for afterwards.
await new Promise((done) => setTimeout(done, 5000))

/** Server time of what the pages read, with all of them live. */
const pages: [string, () => Promise<unknown>][] = [
  ['Network', () => networkRoom(db, 0)],
  ['a unit on the air', () => unitOnAir(db, 1 + Math.floor(Math.random() * units))],
  ['the first answer of the live line', () => onAir(db, Math.floor(Math.random() * units), 200)],
]
const runs = 60
const quantile = (sorted: readonly number[], q: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? 0
for (const [name, read] of pages) {
  await read()
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    await read()
    times.push(performance.now() - began)
  }
  times.sort((a, b) => a - b)
  console.log(`${name}: p50 ${quantile(times, 0.5).toFixed(1)} ms, p95 ${quantile(times, 0.95).toFixed(1)} ms`)
}

/** From a message at the broker to the news that a page hears. */
const client = mqtt.connect(`mqtt://127.0.0.1:${port}`)
await new Promise<void>((done) => client.once('connect', () => done()))
let hears: ((numbers: number[]) => void) | null = null
const stop = onAirNews(({ rows }) => hears?.(rows.map((r) => r.number)))
await new Promise((done) => setTimeout(done, 1500))
const delays: number[] = []
for (let i = 0; i < 40; i++) {
  const n = 1 + ((i * 37) % units)
  const began = performance.now()
  const heard = new Promise<void>((done) => {
    hears = (numbers) => numbers.includes(n) && done()
  })
  client.publish(`yard/lantern/lamp-${n - 1}/1/state`, String(!wanted[n - 1]), {
    qos: 1,
    retain: true,
  })
  await Promise.race([heard, new Promise((done) => setTimeout(done, 3000))])
  delays.push(performance.now() - began)
  await new Promise((done) => setTimeout(done, 40 + Math.random() * 200))
}
delays.sort((a, b) => a - b)
console.log(
  `from a message to the news on a page: p50 ${quantile(delays, 0.5).toFixed(0)} ms, p95 ${quantile(delays, 0.95).toFixed(0)} ms`,
)
stop()
client.end(true)
await field.end()
speaker.kill('SIGTERM')
await end()
process.exit(0)
