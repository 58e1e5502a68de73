import { sql } from 'drizzle-orm'
import { bundleByNumber } from '../units/bundle'
import { unitPage } from '../units/page'
import { type Db, inSnapshot, putOnce, type Source } from './client'
import * as schema from './schema'
import { freshDatabase, runner } from './testing'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 700
const arrive = () => run('create-unit', { number: ++number, name: `Seen ${number}`, boardId: null })
const count = async (source: Source): Promise<number> =>
  Number((await source.execute(sql`select count(*) as n from unit`)).rows[0]?.n)
const backend = async (source: Source): Promise<number> =>
  Number((await source.execute(sql`select pg_backend_pid() as pid`)).rows[0]?.pid)

describe('what is read as of one moment', () => {
  test('agrees with itself, whatever is written in between', async () => {
    const seen = await inSnapshot(db, async (source) => {
      const before = await count(source)
      await arrive()
      return [before, await count(source)]
    })
    expect(seen[1]).toBe(seen[0])
    expect(await count(db)).toBe((seen[0] as number) + 1)
  })
  test('agrees also where its statements go down the line together', async () => {
    for (let i = 0; i < 20; i++) {
      const [one, , two] = await inSnapshot(db, (source) => Promise.all([count(source), arrive(), count(source)]))
      expect(two).toBe(one)
    }
  })
  test('writes nothing: that is refused, and the connection is good for the next', async () => {
    const before = await count(db)
    await expect(
      inSnapshot(db, (source) => source.insert(schema.unit).values({ number: 999, name: 'Never' })),
    ).rejects.toThrow()
    expect(await count(db)).toBe(before)
    expect(await inSnapshot(db, count)).toBe(before)
  })
  test('one that fails leaves no transaction behind, however many fail', async () => {
    for (let i = 0; i < 12; i++) {
      await expect(inSnapshot(db, (source) => source.execute(sql`select nothing from nowhere`))).rejects.toThrow()
      await expect(
        inSnapshot(db, async (source) => {
          await count(source)
          throw new Error('not found')
        }),
      ).rejects.toThrow('not found')
    }
    const open = await db.execute(
      sql`select count(*) as n from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'`,
    )
    expect(Number(open.rows[0]?.n)).toBe(0)
  })
  test('many more at once than there are connections are all answered', async () => {
    const all = await Promise.all(Array.from({ length: 60 }, () => inSnapshot(db, count)))
    expect(new Set(all).size).toBe(1)
  })
  test('one whose connection is cut says so, and the next one has another', async () => {
    const cut = inSnapshot(db, async (source) => {
      const pid = await backend(source)
      await db.execute(sql`select pg_terminate_backend(${pid})`)
      return count(source)
    })
    await expect(cut).rejects.toThrow()
    expect(await inSnapshot(db, count)).toBeGreaterThan(0)
  })
})

describe('a query that is put into words once', () => {
  test('is made once for a connection, and again for another', async () => {
    const one = {} as Source
    const other = {} as Source
    const made: string[] = []
    const ask = (source: Source, name: string) => putOnce(source, name, () => made.push(name))
    expect([ask(one, 'a'), ask(one, 'a'), ask(one, 'b'), ask(other, 'a')]).toEqual([1, 1, 2, 3])
    expect(made).toEqual(['a', 'b', 'a'])
  })
  test('may be asked twice at once down one line: both are answered', async () => {
    for (let i = 0; i < 5; i++) {
      const one = Number((await arrive()).number ?? number)
      const both = await inSnapshot(db, (source) =>
        Promise.all([bundleByNumber(source, one), bundleByNumber(source, one), bundleByNumber(source, one)]),
      )
      expect(both.map((b) => b?.unit.number)).toEqual([one, one, one])
    }
  })
  test('answers for what it is asked each time: pages of many units at once are each its own', async () => {
    const first = number + 1
    for (let i = 0; i < 8; i++) await arrive()
    const pages = await Promise.all(Array.from({ length: 40 }, (_, i) => unitPage(db, first + (i % 8), 'arrive')))
    expect(pages.map((p) => p?.view.number)).toEqual(Array.from({ length: 40 }, (_, i) => first + (i % 8)))
    expect(pages.map((p) => p?.view.name)).toEqual(pages.map((p) => `Seen ${p?.view.number}`))
  })
  test('a unit that is none is none, whatever number is asked for', async () => {
    for (const none of [0, -1, 1.5, 2 ** 31, 123_456, Number.NaN]) expect(await unitPage(db, none, 'pads')).toBeNull()
  })
})
