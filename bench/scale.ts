import { spawn } from 'node:child_process'
import http from 'node:http'
import { stepIds } from '@fresh-coat/core/unit/way'
import pg from 'pg'
import { loadLanternYard } from '../demo/lantern-yard'
import { connect } from '../server/db/client'
import { migrateDatabase } from '../server/db/migrate'
import { settleRipples } from '../server/db/ripple'
import { shipProfiles } from '../server/kit/profiles'
import { grow } from './scale-fill'
import { replay, serve, statementsOf } from './statements'

/**
 * bin/bench scale [N…]: how long pages, find and commands take with N units and a hundred events for each, over HTTP from
 * the production build, and what the statements behind each page cost on one connection with nothing around them: as raw text, and with
 * the plans that the app's connections keep. "Gone to": from another page of the app. Pages take turns. The lines
 * "the machine" are a fixed piece of work behind a web server: what they spread, this machine spreads.
 * AGAIN=1 takes the databases that an earlier run filled.
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

type Run = (i: number) => Promise<unknown>
/**
 * Times of each, which take turns: a moment in which the machine is slow is one for all of them.
 * @param before comes before each, and is not timed
 */
async function byTurns(runs: readonly Run[], count: number, before?: () => Promise<unknown>): Promise<number[][]> {
  for (let i = 0; i < 12; i++) for (const run of runs) await run(i)
  const times = runs.map((): number[] => [])
  for (let i = 0; i < count; i++)
    for (const [at, run] of runs.entries()) {
      await before?.()
      const from = performance.now()
      await run(i + 12)
      times[at]?.push(performance.now() - from)
    }
  return times
}
const timesOf = async (run: Run, count = rounds): Promise<number[]> => (await byTurns([run], count))[0] as number[]

/** A database of its own, filled; with AGAIN the one that is there. */
async function filled(name: string, units: number): Promise<string> {
  const admin = new pg.Client({ connectionString: server })
  await admin.connect()
  const there = await admin.query('select 1 from pg_database where datname = $1', [name])
  const url = new URL(server)
  url.pathname = `/${name}`
  const again = process.env.AGAIN && there.rowCount === 1
  if (!again) {
    await admin.query(`drop database if exists ${name} with (force)`)
    await admin.query(`create database ${name}`)
  }
  await admin.end()
  const { db, end } = connect(url.toString())
  await migrateDatabase(db)
  await end()
  if (!again) await fill(url.toString(), units)
  return url.toString()
}

async function fill(url: string, units: number): Promise<void> {
  const { db, end } = connect(url)
  await shipProfiles(db)
  await loadLanternYard(db, new Date(), () => {})
  await settleRipples(db)
  await end()
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await grow(client, units)
  await client.end()
}

/** What asks takes as little as it can from the two cores that the server and the database have too. */
const oneLine = new http.Agent({ keepAlive: true })
const ask = (path: string, headers: http.OutgoingHttpHeaders = {}): Promise<{ bytes: number; type: string }> =>
  new Promise((resolve, reject) => {
    http
      .get(base + path, { agent: oneLine, headers }, (answer) => {
        let bytes = 0
        answer.on('data', (piece: Buffer) => {
          bytes += piece.length
        })
        answer.on('end', () =>
          answer.statusCode === 200
            ? resolve({ bytes, type: answer.headers['content-type'] ?? '' })
            : reject(new Error(`${path} answered ${answer.statusCode}`)),
        )
        answer.on('error', reject)
      })
      .on('error', reject)
  })
const get = (path: string): Promise<number> => ask(path).then((answer) => answer.bytes)

const isPage = (path: string): boolean => !path.startsWith('/api/')

/** A page as it comes to somebody who goes there from another one of the app: its content, without a document around it. */
async function goTo(path: string): Promise<number> {
  const { bytes, type } = await ask(`${path}${path.includes('?') ? '&' : '?'}_rsc`, { RSC: '1' })
  if (type !== 'text/x-component') throw new Error(`${path} came as a whole document`)
  return bytes
}

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
interface Beside {
  size?: number
  /** The statements behind it, as raw text, and with the plans that a connection keeps. */
  sql?: { raw: readonly number[]; kept: readonly number[] } | null
  gone?: readonly number[]
}
const half = (times: readonly number[]): number => quantile(times, 0.5)
const halfAndMost = (times: readonly number[]): string => `${ms(half(times))} ${ms(quantile(times, 0.95))}`
/** How many times the SQL, raw and with its plans kept. */
const ratios = (times: readonly number[], sql: NonNullable<Beside['sql']>): string =>
  [sql.raw, sql.kept].map((list) => `${(half(times) / half(list)).toFixed(1)}x`.padStart(6)).join(' ')

function line(name: string, times: readonly number[], { size = 0, sql = null, gone = [] }: Beside = {}): void {
  const parts = [
    `  ${name.padEnd(26)} ${halfAndMost(times)}`,
    (size > 0 ? `${Math.ceil(size / 1024)} KB` : '').padStart(7),
    ...(sql ? [ms(half(sql.raw)), ms(half(sql.kept)), ratios(times, sql)] : []),
    ...(gone.length > 0 ? [halfAndMost(gone), sql ? ratios(gone, sql) : ''] : []),
  ]
  console.log(parts.join(' ').trimEnd())
}

interface Lists {
  /** What the server keeps of long lists does not hold any more, and it does not know what changed. */
  forget: () => Promise<unknown>
  /** One unit of each firmware gets another address and runs another version. */
  change: () => Promise<unknown>
  end: () => Promise<void>
}
async function listsOf(url: string): Promise<Lists> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  let other = false
  const change = async () => {
    other = !other
    const { rowCount } = await client.query(
      `update unit_state set address = $1, installed = $2 where unit_id in (select distinct on (firmware_name) unit_id from unit_state
         where in_service and firmware_name <> '' and mac <> '' and lane <> 'ended' order by firmware_name, number desc)`,
      other ? ['192.168.71.241', '0.9.1'] : ['192.168.71.242', '0.9.2'],
    )
    if (!rowCount) throw new Error('no unit in service has a firmware and a MAC')
  }
  return {
    forget: () => client.query('update list_token set addresses = gen_random_uuid(), updates = gen_random_uuid()'),
    change,
    end: () => client.end(),
  }
}

interface View {
  name: string
  path: (i: number) => string
  /** After a change of one row of what it shows. */
  changed?: Changed
}
type Changed = 'just before' | 'a second ago'

async function pages(url: string, numbers: readonly number[]): Promise<void> {
  const at = (i: number) => numbers[(i * 7919) % numbers.length] as number
  const paths: [string, (i: number) => string, Changed?][] = [
    ['bench', () => '/'],
    ['units, first page', () => '/units'],
    ['units, filtered', () => '/units?coat=prime&waits=yes'],
    // Other units at each step: whoever is first to look at one reads it from the disk.
    ...stepIds.map((step, n): [string, (i: number) => string] => [
      `page of ${step}`,
      (i) => `/units/${at(i + 61 * n)}/${step}`,
    ]),
    ['step data, pads', (i) => `/api/units/${at(i)}/pads`],
    ['boards', () => '/boards'],
    ['images', () => '/images'],
    ['meters', () => '/meters'],
    ['network', () => '/network'],
    ['addresses planned', () => '/network/addresses'],
    ['addresses, just changed', () => '/network/addresses', 'just before'],
    ['addresses, a second later', () => '/network/addresses', 'a second ago'],
    ['updates', () => '/network/updates'],
    ['updates, just changed', () => '/network/updates', 'just before'],
    ['updates, a second later', () => '/network/updates', 'a second ago'],
    ['due', () => '/due'],
    ['due, just changed', () => '/due', 'just before'],
    ['due, a second later', () => '/due', 'a second ago'],
    ['which route pays', () => '/kit/routes'],
    ['kit', () => '/kit'],
    ['new unit', () => '/units/new'],
    ['find by name', () => '/api/find?q=plug'],
    ['find by number', (i) => `/api/find?q=${at(i)}`],
    ['find by address', (i) => `/api/find?q=192.168.71.${20 + (at(i) % 20)}`],
  ]
  const views = paths.map(([name, path, changed]): View => ({ name, path, ...(changed ? { changed } : {}) }))
  const { forget, change, end } = await listsOf(url)
  const behind = await statementsOf(
    url,
    port,
    views.map(({ path }) => path(1)),
    forget,
  )
  const stop = await serve(url, port)
  try {
    // A server that has just begun works out its own code for the first few hundred pages.
    for (let round = 0; round < 16; round++)
      for (const { path } of views) {
        await get(path(round))
        if (isPage(path(round))) await goTo(path(round))
      }
    const [one] = await unitsOf(url)
    /** Then any command of the app, which has a second for what comes of both. */
    const aSecondAgo = async () => {
      await change()
      await post('take-in-hand', { unitId: one?.id })
      await new Promise((r) => setTimeout(r, 1000))
    }
    const times = new Map<View, { whole: number[]; gone: number[] }>()
    for (const [changed, count, before] of [
      [undefined, rounds, undefined],
      ['just before', rounds, change],
      ['a second ago', 20, aSecondAgo],
    ] as const) {
      const group = views.filter((view) => view.changed === changed)
      const pagesOnly = changed === 'a second ago' ? [] : group.filter(({ path }) => isPage(path(1)))
      const timed = (some: readonly View[], how: (path: string) => Promise<unknown>) => {
        const runs = some.map(
          ({ path }): Run =>
            (k) =>
              how(path(k)),
        )
        return byTurns(runs, count, before)
      }
      const [whole, gone] = [await timed(group, get), await timed(pagesOnly, goTo)]
      for (const [at, view] of group.entries())
        times.set(view, { whole: whole[at] ?? [], gone: gone[pagesOnly.indexOf(view)] ?? [] })
    }
    // While it is still at work: after a minute of nothing it has to begin with its lines to the database anew.
    const said = await commands(url)
    for (const [i, view] of views.entries()) {
      const asked = behind[i] ?? []
      const again = (isKept: boolean) => replay(url, (run) => timesOf(run), asked, isKept)
      const sql = asked.length > 0 ? { raw: await again(false), kept: await again(true) } : null
      const { whole = [], gone = [] } = times.get(view) ?? {}
      line(view.name, whole, { size: await get(view.path(1)), sql, gone })
    }
    for (const [name, all] of said) line(name, all)
  } finally {
    await stop()
    await end()
  }
}

/** Work of 20 ms behind a web server of its own. */
const steadyWork = `
const work = (n) => { let x = 0; for (let i = 0; i < n; i++) x = (x + i * 7) % 1000003; return x }
let n = 1e6
work(n); work(n)
const from = performance.now(); work(n); work(n); work(n)
n = Math.round((n * 60) / (performance.now() - from))
require('node:http').createServer((_, answer) => answer.end(String(work(n)))).listen(${port}, '127.0.0.1')`

async function machine(): Promise<void> {
  const child = spawn(process.execPath, ['-e', steadyWork], { stdio: 'ignore' })
  await new Promise((r) => setTimeout(r, 1500))
  line('the machine', await timesOf(() => get('/')))
  child.kill()
  await new Promise((r) => child.once('exit', r))
}

/** A row changed and one written, for good: no command can be quicker. */
async function committed(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await client.query('create table if not exists bench_floor (id bigserial primary key, n int)')
  const { rows } = await client.query('insert into bench_floor (n) values (0) returning id')
  line(
    'the least a command takes',
    await timesOf(async (i) => {
      await client.query('begin')
      await client.query('update bench_floor set n = $1 where id = $2', [i, rows[0].id])
      await client.query('insert into bench_floor (n) values ($1)', [i])
      await client.query('commit')
    }),
  )
  await client.query('drop table bench_floor')
  await client.end()
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

/** Times of each. */
async function commands(url: string): Promise<[string, number[]][]> {
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
  let number = Math.max(50_000, ...units.map((u) => u.number))
  return [
    ['save a cell', await timesOf(save)],
    ['save it again (typing)', await timesOf((i) => save(i % 3))],
    ['create a unit', await timesOf(() => post('create-unit', { number: ++number, name: `New plug ${number}` }))],
    ['confirm a gate', await timesOf((i) => post('confirm-gate', { unitId: unit(i).id, gate: 'mains-off' }))],
    ['take in hand', await timesOf((i) => post('take-in-hand', { unitId: unit(i).id }))],
    ['undo', await timesOf((i) => post('undo', { unitId: unit(i).id }), 40)],
  ]
}

for (const units of sizes) {
  const from = performance.now()
  const url = await filled(`fresh_coat_scale_${units}`, units)
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  const { rows } = await client.query(
    'select (select count(*) from unit) as units, (select count(*) from event) as events',
  )
  const numbers = (
    await client.query('select number from unit where number <= 50000 and struck_at is null order by number')
  ).rows.map((r) => r.number as number)
  await client.end()
  console.log(
    `\n${rows[0].units} units, ${rows[0].events} events (ready in ${((performance.now() - from) / 1000).toFixed(0)} s)\n  ${''.padEnd(26)}     p50     p95    size     raw    kept   /raw  /kept  gone to: p50, p95, /raw, /kept`,
  )
  await machine()
  await committed(url)
  await pages(url, numbers)
  await machine()
}
