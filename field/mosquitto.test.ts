import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { connect as connectTo, createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import mqtt from 'mqtt'
import type { Db } from '@/server/db/client'
import { freshDatabase, runner } from '@/server/db/testing'
import { linkRow, onAir } from '@/server/live/reads'
import { AckJournal } from './journal'
import { Field } from './listen'

/** Against Debian's own broker: plain, with a password, and over TLS with a certificate authority of one's own. */

let db: Db
let url: string
let end: () => Promise<void>
const run = runner(() => db)
const place = mkdtempSync(join(tmpdir(), 'fresh-coat-broker-'))
let child: ChildProcess | null = null
let field: Field | null = null

const freePort = () =>
  new Promise<number>((done) => {
    const server = createServer()
    server.listen(0, '127.0.0.1', () => {
      const address = server.address()
      server.close(() => done(typeof address === 'object' && address ? address.port : 0))
    })
  })
const file = (name: string, text: string): string => {
  const path = join(place, name)
  writeFileSync(path, text)
  // The broker gives up being root, and reads it as somebody else.
  chmodSync(path, 0o644)
  return path
}
async function broker(lines: string[]): Promise<number> {
  const port = await freePort()
  const config = file(`${port}.conf`, [`listener ${port} 127.0.0.1`, 'persistence false', ...lines, ''].join('\n'))
  child = spawn('mosquitto', ['-c', config], { stdio: 'ignore' })
  for (let i = 0; i < 100; i++) {
    const up = await new Promise<boolean>((done) => {
      const socket = connectTo(port, '127.0.0.1', () => {
        socket.destroy()
        done(true)
      })
      socket.on('error', () => done(false))
    })
    if (up) return port
    await new Promise((done) => setTimeout(done, 50))
  }
  throw new Error('the broker did not start')
}
const openssl = (...args: string[]) => execFileSync('openssl', args, { cwd: place, stdio: 'pipe' })
/** A certificate of our own authority, for one name. */
function certificate(name: string): string[] {
  file('san.cnf', `subjectAltName=${name}`)
  openssl('req', '-newkey', 'rsa:2048', '-nodes', '-keyout', 'server.key', '-out', 'server.csr', '-subj', '/CN=broker')
  openssl(
    'x509',
    '-req',
    '-in',
    'server.csr',
    '-CA',
    'ca.pem',
    '-CAkey',
    'ca.key',
    '-CAcreateserial',
    '-days',
    '2',
    '-extfile',
    'san.cnf',
    '-out',
    'server.pem',
  )
  for (const f of ['server.key', 'server.pem']) chmodSync(join(place, f), 0o644)
  return [
    `certfile ${join(place, 'server.pem')}`,
    `keyfile ${join(place, 'server.key')}`,
    `cafile ${join(place, 'ca.pem')}`,
  ]
}

beforeAll(async () => {
  process.env.FRESH_COAT_DATA = place
  chmodSync(place, 0o755)
  ;({ db, url, end } = await freshDatabase())
  await run('create-unit', { number: 7, name: 'Glue pot' })
  openssl(
    'req',
    '-x509',
    '-newkey',
    'rsa:2048',
    '-nodes',
    '-keyout',
    'ca.key',
    '-out',
    'ca.pem',
    '-days',
    '2',
    '-subj',
    '/CN=Lantern Yard',
  )
  chmodSync(join(place, 'ca.pem'), 0o644)
})
afterAll(() => end())
afterEach(async () => {
  await field?.end()
  field = null
  const ended = child ? new Promise((done) => child?.on('exit', done)) : null
  child?.kill('SIGTERM')
  await ended
  child = null
  for (const table of ['live_unit', 'live_happening', 'live_hour', 'live_link'])
    await db.execute(sql`delete from ${sql.identifier(table)}`)
})

async function listen(air: { port: number; tls?: boolean; user?: string }, more: object = {}) {
  const broker = { host: '127.0.0.1', tls: false, user: '', ...air }
  await run('set-site', { name: 'Lantern Yard', base: 'yard', slug: 'lantern', air: { broker } })
  await run('set-listener', { on: true, user: '', ca: '', ...more })
  field = new Field({ db, url, journal: new AckJournal(mkdtempSync(join(place, 'journal-'))) })
  await field.start()
}
async function link(is: (state: string) => boolean) {
  for (let i = 0; i < 150; i++) {
    const now = await linkRow(db)
    if (now && is(now.state)) return now
    await new Promise((done) => setTimeout(done, 60))
  }
  throw new Error(`it never was: ${JSON.stringify(await linkRow(db))}`)
}
async function heard(client: mqtt.MqttClient) {
  await client.publishAsync('yard/lantern/glue-pot/1/state', 'true', { qos: 1, retain: true })
  await client.publishAsync('yard/lantern/glue-pot/power', '41.5', { qos: 0 })
  await client.endAsync()
  for (let i = 0; i < 100; i++) {
    const [row] = await onAir(db, 0, 5)
    if (row?.fields.P) return [row.fields.P.value, row.fields['channel/1/on']?.value]
    await new Promise((done) => setTimeout(done, 60))
  }
  return null
}

test('with a password, over version 5, with a session that the broker keeps', async () => {
  const users = file('users', '')
  execFileSync('mosquitto_passwd', ['-b', users, 'yard', 'paper moon'], { stdio: 'pipe' })
  chmodSync(users, 0o644)
  const port = await broker(['allow_anonymous false', `password_file ${users}`])
  await listen({ port, user: 'yard' }, { password: 'paper moon' })
  await link((s) => s === 'connected')
  const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${port}`, { username: 'yard', password: 'paper moon' })
  expect(await heard(client)).toEqual([41.5, true])
  await field?.end()
  await run('set-listener', { on: true, user: '', ca: '', password: 'wrong' })
  field = new Field({ db, url, journal: new AckJournal(mkdtempSync(join(place, 'journal-'))) })
  await field.start()
  expect((await link((s) => s === 'refused')).message).toMatch(/refuses|lets this user/)
  await run('set-listener', { on: true, user: '', ca: '', password: '' })
})

test('over TLS with an own authority; without it, or with another name in the certificate, nobody is believed', async () => {
  const ca = readFileSync(join(place, 'ca.pem'), 'utf8')
  let port = await broker(['allow_anonymous true', ...certificate('IP:127.0.0.1')])
  await listen({ port, tls: true }, { ca })
  await link((s) => s === 'connected')
  const client = await mqtt.connectAsync(`mqtts://127.0.0.1:${port}`, { ca })
  expect(await heard(client)).toEqual([41.5, true])
  await run('set-listener', { on: true, user: '', ca: '' })
  expect((await link((s) => s === 'refused')).message).toMatch(/certificate is not believed/)
  const ended = new Promise((done) => child?.on('exit', done))
  child?.kill('SIGTERM')
  await ended
  port = await broker(['allow_anonymous true', ...certificate('DNS:elsewhere.invalid')])
  await field?.end()
  await db.execute(sql`delete from live_link`)
  await listen({ port, tls: true }, { ca })
  expect((await link((s) => s === 'refused')).message).toMatch(/certificate is not believed/)
})

test('what was published while the app was away is told to the session that the broker keeps', async () => {
  const port = await broker(['allow_anonymous true'])
  await listen({ port })
  await link((s) => s === 'connected')
  await field?.end()
  const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${port}`)
  await client.publishAsync('yard/lantern/glue-pot/1/event', '"press"', { qos: 1 })
  await client.endAsync()
  field = new Field({ db, url, journal: new AckJournal(mkdtempSync(join(place, 'journal-'))) })
  await field.start()
  const presses = async () =>
    Number((await db.execute(sql`select count(*) n from live_happening where kind = 'event'`)).rows[0]?.n)
  for (let i = 0; i < 100 && (await presses()) === 0; i++) await new Promise((done) => setTimeout(done, 60))
  expect(await presses()).toBe(1)
})
