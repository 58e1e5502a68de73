import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import type { Db } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { worldOf } from '../db/testing-walk'
import { keepFile } from '../files/keep'
import { settleAll } from '../units/settle'
import { exportBundle, importBundle, leftOut, parts } from './bundle'

process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-bundle-'))
let from: Db
let to: Db
let ends: (() => Promise<void>)[] = []
beforeEach(async () => {
  const [a, b] = [await freshDatabase(), await freshDatabase()]
  ;[from, to] = [a.db, b.db]
  ends = [a.end, b.end]
})
afterEach(async () => {
  for (const end of ends) await end()
})

const now = new Date('2026-11-28T12:00:00Z')
/** A bundle through JSON, as a file carries it, without the moment it was made. */
const carried = async (db: Db, wish = {}) => {
  const { exportedAt: _, ...rest } = JSON.parse(JSON.stringify(await exportBundle(db, now, wish)))
  return rest
}
const file = async (db: Db, wish = {}) => JSON.parse(JSON.stringify(await exportBundle(db, now, wish)))
const refused = async (run: Promise<unknown>) =>
  run.then(
    () => 'ok',
    (e) => e.code,
  )

test.each([1, 2])(
  'whatever was done in a shop, its bundle brought into an empty one gives the same bundle again (walk %i)',
  async (seed) => {
    const world = worldOf(from, seed)
    for (let i = 0; i < 60; i++) await world.step()
    const bundle = await file(from)
    const first = await importBundle(to, bundle)
    expect(first.rows).toBeGreaterThan(20)
    const { exportedAt: _, ...whole } = bundle
    expect(await carried(to)).toEqual(whole)
    // Once more changes nothing.
    expect((await importBundle(to, bundle)).rows).toBe(0)
    expect(await carried(to)).toEqual(whole)
    // And work goes on there: numbers that count up do not begin anew.
    await runner(() => to)('create-unit', { number: 4711, name: 'Afterwards' })
  },
)

test('dumps and secrets stay at home, named by their hashes; with a passphrase they come along, and open with it only', async () => {
  const run = runner(() => from)
  const unitId = (await run('create-unit', { number: 1, name: 'Glue pot' })).id as string
  const dump = new Uint8Array(4096).fill(7)
  await keepFile(from, { kind: 'dump', name: 'stock.bin', unitId, read: 1, tag: null }, dump, now)
  await run('keep-secret', { unitId, name: 'Wi-Fi password', keptIn: 'the unit', value: 'paper moon 27' })
  const plain = JSON.stringify(await file(from))
  expect(plain).not.toContain('paper moon')
  expect(plain).not.toContain(Buffer.from(dump).toString('base64').slice(0, 400))
  expect(await refused(exportBundle(from, now, { secrets: true, passphrase: 'short' }))).toBe('passphrase')
  const bundle = await file(from, { secrets: true, dumps: true, passphrase: 'limelight and gauze' })
  expect(JSON.stringify(bundle)).not.toContain('paper moon')
  expect(await refused(importBundle(to, bundle, 'another phrase'))).toBe('passphrase')
  expect(await to.execute(sql`select 1 from unit`).then((r) => r.rows)).toEqual([])
  expect(await importBundle(to, bundle)).toMatchObject({ secrets: 0, leftSealed: true })
  expect(await importBundle(to, bundle, 'limelight and gauze')).toMatchObject({ secrets: 1, leftSealed: false })
  const [secret] = (await to.execute(sql`select id from secret`)).rows as { id: string }[]
  expect(await runner(() => to)('reveal-secret', { secretId: secret?.id })).toMatchObject({ value: 'paper moon 27' })
  const [held] = (
    await to.execute(sql`select b.held, sum(length(c.data))::int as n from blob b join blob_chunk c using (sha256)
    where sha256 in (select sha256 from file where kind = 'dump') group by 1`)
  ).rows
  expect(held).toEqual({ held: true, n: 4096 })
})

test('a file that is none, half of one, one of a later version, a shop that is not empty: refused, and nothing changes', async () => {
  await runner(() => from)('create-unit', { number: 1, name: 'Glue pot' })
  await runner(() => to)('create-unit', { number: 2, name: 'Somebody else' })
  const bundle = await file(from)
  const before = await carried(to)
  expect(await refused(importBundle(to, null))).toBe('no-bundle')
  expect(await refused(importBundle(to, { ...bundle, parts: undefined }))).toBe('no-bundle')
  expect(await refused(importBundle(to, { ...bundle, version: 2 }))).toBe('version')
  expect(await refused(importBundle(to, bundle))).toBe('not-empty')
  expect(await carried(to)).toEqual(before)
})

test('a bundle of a schema that did not know a column takes what the schema gives it', async () => {
  await runner(() => from)('create-unit', { number: 1, name: 'Glue pot', place: 'workshop' })
  const bundle = await file(from)
  for (const unit of bundle.parts.unit) delete unit.spoken
  await importBundle(to, bundle)
  const [row] = (await to.execute(sql`select number, place, spoken from unit`)).rows
  expect(row).toMatchObject({ number: 1, place: 'workshop' })
})

test('states that an older version worked out are worked out anew where something of them is missing', async () => {
  const world = worldOf(from, 3)
  for (let i = 0; i < 40; i++) await world.step()
  await settleAll(from, new Date())
  const bundle = await file(from)
  for (const state of bundle.parts.unit_state) delete state.installed
  await importBundle(to, bundle)
  expect((await carried(to)).parts.unit_state).toEqual((await carried(from)).parts.unit_state)
})

test('every table is in the bundle, or left out by name', async () => {
  const found = await from.execute(
    sql`select table_name as name from information_schema.tables where table_schema = 'public' order by 1`,
  )
  expect(found.rows.map((r) => r.name)).toEqual([...parts, ...leftOut].sort())
})
