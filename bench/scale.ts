import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { stepIds } from '@fresh-coat/core/unit/way'
import pg from 'pg'
import { loadLanternYard } from '../demo/lantern-yard'
import { connect, type Db } from '../server/db/client'
import { migrateDatabase } from '../server/db/migrate'
import { settleRipples } from '../server/db/ripple'
import { find } from '../server/find'
import { shipProfiles } from '../server/kit/profiles'
import { benchPage } from '../server/units/bench'
import { unitRows as listPage } from '../server/units/lists'
import { unitPage } from '../server/units/page'
import { grow } from './scale-fill'

/**
 * bin/bench scale [N…]: how long pages, find and commands take with N units and a hundred events for each, over HTTP from
 * the production build, and what the same questions cost as bare SQL on one connection.
 */
const sizes = process.argv
  .slice(2)
  .map(Number)
  .filter((n) => n >= 24)
const server = process.env.DATABASE_URL as string
const port = Number(process.env.PORT ?? 4596)
const base = `http://127.0.0.1:${port}`
const rounds = Number(process.env.ROUNDS ?? 60)

const quantile = (list: readonly number[], q: number): number =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(q * list.length))] as number

async function timesOf(run: (i: number) => Promise<unknown>, count = rounds): Promise<number[]> {
  for (let i = 0; i < 12; i++) await run(i)
  const times: number[] = []
  for (let i = 0; i < count; i++) {
    const from = performance.now()
    await run(i + 12)
    times.push(performance.now() - from)
  }
  return times
}

interface Statement {
  text: string
  values: unknown[]
  name?: string
}

/** The statements that a read sends, so that they can be sent again without anything around them. */
async function recorded(url: string, read: (db: Db) => Promise<unknown>): Promise<Statement[]> {
  const statements: Statement[] = []
  const query = pg.Client.prototype.query
  // biome-ignore lint/suspicious/noExplicitAny: the driver's own signature has twenty forms
  pg.Client.prototype.query = function (this: pg.Client, ...given: any[]) {
    const [first, second] = given
    const text: string | undefined = typeof first === 'string' ? first : first?.text
    if (text && !/^(begin|commit|rollback)/i.test(text))
      statements.push({ text, values: Array.isArray(second) ? second : (first.values ?? []), name: first.name })
    // biome-ignore lint/suspicious/noExplicitAny: as above
    return (query as any).apply(this, given)
  } as never
  const { db, end } = connect(url)
  try {
    await read(db)
  } finally {
    pg.Client.prototype.query = query
    await end()
  }
  return statements
}

async function rawTimes(url: string, statements: readonly Statement[]): Promise<number[]> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  const times = await timesOf(async () => {
    await client.query('begin isolation level repeatable read read only')
    for (const s of statements)
      await client.query({ text: s.text, values: s.values, ...(s.name ? { name: s.name } : {}) })
    await client.query('commit')
  })
  await client.end()
  return times
}

async function fresh(name: string): Promise<string> {
  const admin = new pg.Client({ connectionString: server })
  await admin.connect()
  await admin.query(`drop database if exists ${name} with (force)`)
  await admin.query(`create database ${name}`)
  await admin.end()
  const url = new URL(server)
  url.pathname = `/${name}`
  return url.toString()
}

async function fill(url: string, units: number): Promise<void> {
  const { db, end } = connect(url)
  await migrateDatabase(db)
  await shipProfiles(db)
  await loadLanternYard(db, new Date(), () => {})
  await settleRipples(db)
  await end()
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await grow(client, units)
  await client.end()
}

async function serve(url: string) {
  // As bin/start runs it.
  const child = spawn('scripts/web.sh', ['127.0.0.1', String(port)], {
    env: { ...process.env, DATABASE_URL: url, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
    stdio: 'ignore',
  })
  for (let i = 0; i < 150; i++) {
    const ok = await fetch(`${base}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
    if (ok) break
    await new Promise((r) => setTimeout(r, 100))
  }
  return async () => {
    child.kill('SIGTERM')
    await once(child, 'exit')
  }
}

const get = async (path: string): Promise<number> => (await (await fetch(base + path)).arrayBuffer()).byteLength
async function post(command: string, input: unknown): Promise<Record<string, unknown>> {
  const response = await fetch(`${base}/api/commands/${command}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(input),
  })
  const answer = (await response.json()) as { ok: boolean; value: Record<string, unknown>; error?: { message: string } }
  if (!answer.ok) throw new Error(`${command}: ${answer.error?.message}`)
  return answer.value
}

const ms = (n: number) => n.toFixed(1).padStart(7)
function line(name: string, times: readonly number[], size = 0, raw: readonly number[] = []): void {
  const p50 = quantile(times, 0.5)
  const ratio = raw.length > 0 ? `${ms(quantile(raw, 0.5))}  ${(p50 / quantile(raw, 0.5)).toFixed(1)}x` : ''
  console.log(
    `  ${name.padEnd(26)} ${ms(p50)} ${ms(quantile(times, 0.95))}  ${size > 0 ? `${Math.ceil(size / 1024)} KB`.padStart(7) : '       '} ${ratio}`,
  )
}

async function pages(url: string, numbers: readonly number[]): Promise<void> {
  const at = (i: number) => numbers[(i * 7919) % numbers.length] as number
  const reads: Record<string, (db: Db) => Promise<unknown>> = {
    'step data, pads': (db) => unitPage(db, at(3), 'pads'),
    'units, first page': (db) => listPage(db, {}, 0, 100),
    bench: (db) => benchPage(db, '2026-11-27', '2026-12-11'),
    'find by name': (db) => find(db, 'plug'),
  }
  const views: [string, (i: number) => string][] = [
    ['bench', () => '/'],
    ['units, first page', () => '/units'],
    ['units, filtered', () => '/units?coat=prime&waits=yes'],
    ...stepIds.map((step): [string, (i: number) => string] => [`page of ${step}`, (i) => `/units/${at(i)}/${step}`]),
    ['step data, pads', (i) => `/api/units/${at(i)}/pads`],
    ['boards', () => '/boards'],
    ['images', () => '/images'],
    ['meters', () => '/meters'],
    ['network', () => '/network'],
    ['addresses planned', () => '/network/addresses'],
    ['updates', () => '/network/updates'],
    ['due', () => '/due'],
    ['which route pays', () => '/kit/routes'],
    ['kit', () => '/kit'],
    ['new unit', () => '/units/new'],
    ['find by name', () => '/api/find?q=plug'],
    ['find by number', (i) => `/api/find?q=${at(i)}`],
    ['find by address', (i) => `/api/find?q=192.168.71.${20 + (at(i) % 20)}`],
  ]
  for (const [name, path] of views) {
    const times = await timesOf((i) => get(path(i)))
    const read = reads[name]
    line(name, times, await get(path(1)), read ? await rawTimes(url, await recorded(url, read)) : [])
  }
}

/** Units of the copies, which nobody's story depends on. */
async function unitsOf(url: string): Promise<{ id: string; number: number; version: number }[]> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  const found = await client.query(
    `select u.id, u.number, coalesce(r.version, 0) as version from unit u
     left join step_record r on r.unit_id = u.id and r.step = 'pads' and r.struck_at is null
     order by u.number desc limit 400`,
  )
  await client.end()
  return found.rows
}

async function commands(url: string): Promise<void> {
  const units = await unitsOf(url)
  const unit = (i: number) => units[i % units.length] as (typeof units)[number]
  const versions = new Map(units.map((u) => [u.id, u.version]))
  const save = async (i: number) => {
    const { id } = unit(i)
    const { version } = await post('save-step', {
      unitId: id,
      step: 'pads',
      version: versions.get(id),
      data: { note: `n${i}` },
    })
    versions.set(id, version as number)
  }
  line('save a cell', await timesOf(save))
  line('save it again (typing)', await timesOf((i) => save(i % 3)))
  let number = 50_000
  line('create a unit', await timesOf((i) => post('create-unit', { number: ++number, name: `New plug ${i}` })))
  line('confirm a gate', await timesOf((i) => post('confirm-gate', { unitId: unit(i).id, gate: 'mains-off' })))
  line('take in hand', await timesOf((i) => post('take-in-hand', { unitId: unit(i).id })))
  line('undo', await timesOf((i) => post('undo', { unitId: unit(i).id }), 40))
}

for (const units of sizes) {
  const url = await fresh(`fresh_coat_scale_${units}`)
  const from = performance.now()
  await fill(url, units)
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  const { rows } = await client.query(
    'select (select count(*) from unit) as units, (select count(*) from event) as events',
  )
  const numbers = (await client.query('select number from unit order by number')).rows.map((r) => r.number as number)
  await client.end()
  console.log(
    `\n${rows[0].units} units, ${rows[0].events} events (made in ${((performance.now() - from) / 1000).toFixed(0)} s)\n  ${''.padEnd(26)}     p50     p95     size     SQL  page/SQL`,
  )
  const stop = await serve(url)
  try {
    await pages(url, numbers)
    await commands(url)
  } finally {
    await stop()
  }
}
