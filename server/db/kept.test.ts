import { sql } from 'drizzle-orm'
import { campaignOf, campaignStands } from '../live/campaign'
import { addressesRoom } from '../network/addresses'
import { type Db, inSnapshot, type Source, type Tx } from './client'
import { keptOf } from './kept'
import { settleRipples } from './ripple'
import { freshDatabase, runner } from './testing'

let db: Db
let end: () => Promise<void>
const run = runner(() => db)
const now = new Date('2026-12-01T10:00:00Z')
const site = { subnet: '192.168.71.0/24', gateway: '192.168.71.1' }
const ids: string[] = []
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
  for (const number of [1, 2, 3]) {
    const unitId = (await run('create-unit', { number, name: `Lamp ${number}`, place: 'loft' })).id as string
    ids.push(unitId)
    const data = { mac: `b8:3c:d0:77:10:0${number}`, address: number === 2 ? '192.168.71.20' : '' }
    await run('save-step', { unitId, step: 'join', version: 0, data })
  }
  await run('set-addresses', { ...site, groups: [{ place: 'Loft', from: '192.168.71.40', to: '192.168.71.47' }] })
  await run('set-campaign', {
    ...{ firmware: 'Plainsong', version: '9.5.0', start: now.toISOString(), utcOffset: 'Z' },
    rings: [{ name: 'Trial', count: 1 }, { name: 'The rest' }],
  })
  // What the background works out by itself comes before what is set by hand.
  await settleRipples(db)
  await db.execute(sql`update unit_state set in_service = true, firmware_name = 'Plainsong', installed = '9.4.0'`)
  await db.execute(sql`insert into live_unit (unit_id, presence, flapping, state)
    select id, 'online', false, '{"fields": {"fw": {"value": "9.4.1", "at": 5}}}' from unit where number = 3`)
})
afterAll(() => end())

const rooms = async (source: Source) => {
  const campaign = await campaignOf(source)
  if (!campaign) throw new Error('no update is planned')
  const { units, went, ...rings } = await campaignStands(source, campaign, now)
  return { addresses: await addressesRoom(source), units: [...units.values()], went: [...went], ...rings }
}
/** A transaction that has written gets nothing that is kept. */
const readAnew = () =>
  db.transaction(async (tx) => {
    await tx.execute(sql`select pg_current_xact_id()`)
    return rooms(tx)
  })
const tokens = async () => (await db.execute(sql`select addresses, updates from list_token`)).rows[0]
const seenName = (source: Source) => addressesRoom(source).then(({ board }) => board?.rows[0]?.name)
const rename = (source: Source, name: string, number = 1) =>
  source.execute(sql`update unit set name = ${name} where number = ${number}`)

/** Another value of a column's kind. */
const otherOf: Record<string, string> = {
  ...{ text: "@ || 'x'", integer: '@ + 1000', 'double precision': 'coalesce(@, 0) + 1', real: 'coalesce(@, 0) + 1' },
  ...{ boolean: 'not @', date: "date '2027-01-01'", 'timestamp with time zone': "'2026-11-01'" },
  jsonb: `'{"fields": {"fw": {"value": "9.4.2", "at": 9}}}'`,
}
const columnsOf = async (table: string): Promise<{ name: string; kind: string }[]> =>
  (
    await db.execute(sql`select column_name as name, data_type as kind from information_schema.columns
      where table_schema = 'public' and table_name = ${table} and is_generated = 'NEVER' and data_type <> 'uuid' order by 1`)
  ).rows as never

describe.each<[string, number, string[]]>([
  ['unit', 2, ['name', 'number', 'place', 'slug', 'struck_at']],
  ['unit_state', 0, ['address', 'bridge', 'firmware_name', 'in_service', 'installed', 'lane', 'mac', 'number']],
  ['live_unit', 2, ['state']],
])('whatever changes in %s', (table, at, shown) => {
  test('what is kept is what would be read anew', async () => {
    const key = table === 'unit' ? 'id' : 'unit_id'
    const columns = await columnsOf(table)
    expect(columns.length).toBeGreaterThan(5)
    const row = sql.raw(`select to_jsonb(${table}) as row from ${table} where ${key} = '${ids[at]}'`)
    const [before, was] = [await rooms(db), JSON.stringify((await db.execute(row)).rows[0]?.row)]
    const seen = new Set<string>()
    for (const { name, kind } of columns) {
      const other = (name === 'lane' ? "'ended'" : otherOf[kind])?.replace('@', `"${name}"`)
      if (!other) throw new Error(`no other value of ${name}, ${kind}`)
      await db.execute(sql.raw(`update ${table} set "${name}" = ${other} where ${key} = '${ids[at]}'`))
      const anew = await readAnew()
      expect([name, await rooms(db)]).toEqual([name, anew])
      if (JSON.stringify(anew) !== JSON.stringify(before)) seen.add(name)
      await db.execute(sql`update ${sql.raw(table)} set ${sql.identifier(name)} =
        (jsonb_populate_record(null::${sql.raw(table)}, ${was}::jsonb)).${sql.identifier(name)} where ${sql.raw(`${key} = '${ids[at]}'`)}`)
    }
    expect([...seen]).toEqual(shown)
    expect(await rooms(db)).toEqual(before)
  })
  test('a row that goes or comes is seen', async () => {
    if (table === 'unit') return expect(await rooms(db)).toEqual(await readAnew())
    const row = sql.raw(`delete from ${table} where unit_id = '${ids[at]}' returning to_jsonb(${table}) as row`)
    const kept = (await db.execute(row)).rows[0] as { row: Record<string, unknown> }
    expect(await rooms(db)).toEqual(await readAnew())
    const { fw: _, fw_at: __, ...given } = kept.row
    const names = sql.raw(Object.keys(given).join(', '))
    await db.execute(sql`insert into ${sql.raw(table)} (${names})
      select ${names} from jsonb_populate_record(null::${sql.raw(table)}, ${JSON.stringify(given)}::jsonb)`)
    expect(await rooms(db)).toEqual(await readAnew())
  })
})

test('typing of what a list does not have leaves it as it is, and what is kept is the very same', async () => {
  const note = (text: string, version: number) =>
    run('save-step', { unitId: ids[0], step: 'arrive', version, data: { note: text } })
  await note('a lamp', 0)
  const [before, first] = [await tokens(), await addressesRoom(db)]
  await note('a lamp of the loft', 1)
  expect(await tokens()).toEqual(before)
  expect(await addressesRoom(db)).toBe(first)
})

test('another network is another plan, and the one before is there again with the network before', async () => {
  await run('set-addresses', site)
  const first = await addressesRoom(db)
  await run('set-addresses', { subnet: '192.168.72.0/24', gateway: '192.168.72.1' })
  expect((await addressesRoom(db)).site.subnet).toBe('192.168.72.0/24')
  await run('set-addresses', site)
  expect(await addressesRoom(db)).toEqual(first)
})

test('who reads as of a moment gets the list of that moment, while others get the new one', async () => {
  await rename(db, 'Before')
  const seen = await inSnapshot(db, async (source) => {
    const first = await seenName(source)
    await rename(db, 'After')
    return [first, await seenName(db), await seenName(source)]
  })
  expect(seen).toEqual(['Before', 'After', 'Before'])
  expect(await seenName(db)).toBe('After')
})

test('what is not committed is seen by its own transaction alone, and what is taken back by nobody', async () => {
  await rename(db, 'Committed')
  const undone = db.transaction(async (tx) => {
    await rename(tx, 'Not yet')
    expect([await seenName(tx), await seenName(db)]).toEqual(['Not yet', 'Committed'])
    throw new Error('taken back')
  })
  await expect(undone).rejects.toThrow('taken back')
  expect(await seenName(db)).toBe('Committed')
})

test('a change that is under way holds up no other, and after both the list has both', async () => {
  let go = () => {}
  const open = new Promise<void>((resolve) => {
    go = resolve
  })
  let begun = () => {}
  const isBegun = new Promise<void>((resolve) => {
    begun = resolve
  })
  const slow = db.transaction(async (tx: Tx) => {
    await rename(tx, 'Slow', 1)
    begun()
    await open
  })
  await isBegun
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local lock_timeout = '3s'`)
    await rename(tx, 'Quick', 2)
  })
  expect(await seenName(db)).toBe('Committed')
  go()
  await slow
  const { board } = await addressesRoom(db)
  expect(board?.rows.slice(0, 2).map((r) => r.name)).toEqual(['Slow', 'Quick'])
})

test('many changes of one transaction give each list another token once', async () => {
  const written = await db.transaction(async (tx) => {
    // This connection's own, those of earlier transactions among them.
    const counted = sql`select n_tup_upd::int as n from pg_stat_xact_user_tables where relname = 'list_token'`
    const count = async () => Number((await tx.execute(counted)).rows[0]?.n)
    const before = await count()
    for (const name of ['A', 'B', 'C']) await rename(tx, name)
    await tx.execute(sql`update unit_state set installed = '9.4.9', address = '192.168.71.' || (30 + number)`)
    // What waits for the end of the transaction comes now.
    await tx.execute(sql`set constraints all immediate`)
    return (await count()) - before
  })
  expect(written).toBe(2)
  expect(await rooms(db)).toEqual(await readAnew())
})

test('what could not be worked out is tried again', async () => {
  const kept = await keptOf(db, 'addresses')
  await expect(
    kept.once('broken', () => {
      throw new Error('the line was lost')
    }),
  ).rejects.toThrow('lost')
  expect(await kept.once('broken', () => 'there')).toBe('there')
  expect(await (await keptOf(db, 'addresses')).once('broken', () => 'anew')).toBe('there')
})

describe('of a list that was read before', () => {
  interface Named {
    id: string
    number: number
    name: string
  }
  let asked: (readonly string[] | 'all')[] = []
  const named = async (ids: readonly string[] | null) => {
    asked.push(ids ?? 'all')
    const found = await db.execute(sql`select id, number, name from unit
      where struck_at is null ${ids ? sql`and id = any(${sql.param(ids)}::uuid[])` : sql``} order by name desc`)
    return found.rows as unknown as Named[]
  }
  const names = async () => {
    const rows = await (await keptOf(db, 'addresses')).rows('names', { all: () => named(null), of: named })
    return rows.map((r) => r.name)
  }
  beforeEach(async () => {
    for (const [i, name] of ['One', 'Two', 'Three'].entries()) await rename(db, name, i + 1)
    expect(await names()).toEqual(['One', 'Two', 'Three'])
    asked = []
  })

  test('only the rows that changed are read, once, and stand in their order', async () => {
    await rename(db, 'Zwei', 2)
    expect(await names()).toEqual(['One', 'Zwei', 'Three'])
    expect(await names()).toEqual(['One', 'Zwei', 'Three'])
    await rename(db, 'Drei', 3)
    await rename(db, 'Eins', 1)
    expect(await names()).toEqual(['Eins', 'Zwei', 'Drei'])
    expect(asked.map((ids) => [...ids].sort())).toEqual([[ids[1]], [ids[0], ids[2]].sort()])
  })
  test('one with another number goes to its place, one that is struck is gone, and both come back', async () => {
    await db.execute(sql`update unit set number = 90 where number = 1`)
    expect(await names()).toEqual(['Two', 'Three', 'One'])
    await db.execute(sql`update unit set struck_at = now() where number = 2`)
    expect(await names()).toEqual(['Three', 'One'])
    await db.execute(sql`update unit set struck_at = null, number = case number when 90 then 1 else number end
      where number in (2, 90)`)
    expect(await names()).toEqual(['One', 'Two', 'Three'])
    expect(asked).not.toContain('all')
  })
  test('after a transaction with more changes than are told all rows are read', async () => {
    const often = (times: number) =>
      db.transaction(async (tx) => {
        for (let i = 0; i < times; i++) await rename(tx, `One ${i}`, 1)
      })
    await often(100)
    expect(await names()).toEqual(['One 99', 'Two', 'Three'])
    await often(101)
    expect(await names()).toEqual(['One 100', 'Two', 'Three'])
    expect(asked).toEqual([[ids[0]], 'all'])
  })
  test('where what changed is told no more all rows are read', async () => {
    await rename(db, 'Zwei', 2)
    await db.execute(sql`delete from list_past`)
    expect(await names()).toEqual(['One', 'Zwei', 'Three'])
    expect(asked).toEqual(['all'])
  })
  test('what changed long ago is told no more', async () => {
    for (let i = 0; i < 260; i++) await rename(db, `One ${i}`)
    const told = await db.execute(sql`select count(*)::int as n from list_past where list = 'addresses'`)
    expect(Number(told.rows[0]?.n)).toBeLessThanOrEqual(201)
    expect(await names()).toEqual(['One 259', 'Two', 'Three'])
    expect(asked).toEqual(['all'])
  })
  test('who reads as of an earlier moment reads all of it, and takes nothing from those who read as of now', async () => {
    const of = (source: Source) => async () =>
      (await source.execute(sql`select id, number, name from unit order by number`)).rows as unknown as Named[]
    await inSnapshot(db, async (source) => {
      const kept = await keptOf(source, 'addresses')
      await rename(db, 'Uno')
      expect(await names()).toEqual(['Uno', 'Two', 'Three'])
      const then = await kept.rows('names', { all: of(source), of: of(source) })
      expect(then.map((r) => r.name)).toEqual(['One', 'Two', 'Three'])
    })
    expect(await names()).toEqual(['Uno', 'Two', 'Three'])
  })
})
