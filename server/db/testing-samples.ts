import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { stepIds } from '@fresh-coat/core/unit/way'
import { isNull, sql } from 'drizzle-orm'
import pg from 'pg'
import { boardDossier, boardPage } from '../boards/lists'
import { runCommand } from '../commands'
import { fileDossier } from '../files/dossier'
import { kitOf, markings, profiles } from '../kit/reads'
import { networkPage } from '../network/reads'
import { benchPage } from '../units/bench'
import { unitRows } from '../units/lists'
import { unitPage as pageOfUnit } from '../units/page'
import { settleAll } from '../units/settle'
import type { Db } from './client'
import { recentEvents } from './log'
import { migrateDatabase } from './migrate'
import { settleRipples } from './ripple'
import * as schema from './schema'
import { emptyDatabase, opened } from './testing'
import { upgradeStored } from './upgrade'

/**
 * Lantern Yard as earlier versions stored it, one per schema and shape that was ever on main (bytes of files left out).
 * Made once by those versions themselves; never edited.
 */
const folder = join(__dirname, 'samples')
export const samples = readdirSync(folder)
  .filter((f) => f.endsWith('.sql.gz'))
  .sort()

/** Worked out from others, and made anew where it is missing. */
const derived = ['unit_state', 'unit_pace', 'name_clash', 'ripple', 'list_past']
/** Rows of every table that holds what people or units said, by its name. */
async function countsOf(ask: (query: string) => Promise<{ rows: unknown[] }>): Promise<Record<string, number>> {
  const found = await ask(
    `select table_name as name from information_schema.tables where table_schema = 'public' order by 1`,
  )
  const counts: Record<string, number> = {}
  for (const { name } of found.rows as { name: string }[]) {
    if (derived.includes(name)) continue
    const [row] = (await ask(`select count(*)::int as n from ${name}`)).rows as { n: number }[]
    if (row && row.n > 0) counts[name] = row.n
  }
  return counts
}

async function restored(name: string): Promise<{ db: Db; end: () => Promise<void>; counts: Record<string, number> }> {
  const empty = await emptyDatabase()
  const client = new pg.Client({ connectionString: empty.url })
  await client.connect()
  await client.query(gunzipSync(readFileSync(join(folder, name))).toString('utf8'))
  await client.query('set search_path = public')
  const counts = await countsOf((query) => client.query(query))
  await client.end()
  return { ...opened(empty), counts }
}

/** What holds of a database that an earlier version stored. */
export function opens(name: string): void {
  let db: Db
  let end: () => Promise<void>
  let counts: Record<string, number>
  beforeAll(async () => {
    ;({ db, end, counts } = await restored(name))
    await migrateDatabase(db)
    await upgradeStored(db)
    await settleRipples(db)
  }, 240_000)
  afterAll(() => end())

  test('keeps every row', async () => {
    const now = await countsOf(async (query) => db.execute(sql.raw(query)))
    expect(now).toMatchObject(counts)
  })
  test('shows every step of every unit, and every record can be read', async () => {
    const units = await unitRows(db, {}, 0, 200)
    expect(units).toHaveLength(counts.unit as number)
    for (const { number } of units)
      for (const step of stepIds) {
        const page = await pageOfUnit(db, number, step)
        const unread = stepIds.filter((s) => page?.view.records[s].unreadable !== undefined)
        expect([step, page?.view.number, unread]).toEqual([step, number, []])
      }
  }, 240_000)
  test('shows bench, boards, files, kit and network', async () => {
    expect((await benchPage(db, '2026-11-27', '2026-12-11')).empty).toBe(counts.unit === 0)
    for (const b of await boardPage(db)) expect((await boardDossier(db, b.id))?.name).toBe(b.name)
    for (const f of await db.select().from(schema.file))
      if (f.kind !== 'photo') expect((await fileDossier(db, f.id))?.file.name).toBe(f.name)
    await Promise.all([kitOf(db), markings(db), profiles(db), networkPage(db, 0, 50), recentEvents(db, 20)])
  })
  test('what its migrations say of the states is what core works out', async () => {
    const said = () =>
      db
        .select({
          number: schema.unitState.number,
          name: schema.unitState.firmwareName,
          installed: schema.unitState.installed,
          bridge: schema.unitState.bridge,
        })
        .from(schema.unitState)
        .orderBy(schema.unitState.number)
    const migrated = await said()
    await settleAll(db, new Date())
    expect(migrated).toEqual(await said())
  }, 240_000)
  test('is upgraded once: a second time finds nothing to do', async () => {
    expect(await upgradeStored(db)).toBe(0)
    expect(await db.$count(schema.event, isNull(schema.event.changes))).toBe(counts.event)
  })
  test('goes on: topics in service stay, and what was done last can be undone', async () => {
    const before = await db
      .select({ slug: schema.unit.slug, inService: schema.unit.inService })
      .from(schema.unit)
      .orderBy(schema.unit.number)
    await settleAll(db, new Date())
    const after = await db
      .select({ slug: schema.unit.slug, inService: schema.unit.inService })
      .from(schema.unit)
      .orderBy(schema.unit.number)
    expect(after.filter((u) => u.inService)).toEqual(before.filter((u) => u.inService))
    for (let i = 0; i < 10; i++) {
      const done = await runCommand(db, 'undo', { unitId: null })
      expect(done.ok ? '' : done.error.message).toBe('')
    }
  }, 240_000)
}
