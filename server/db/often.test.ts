import { sql } from 'drizzle-orm'
import fc from 'fast-check'
import { type Db, inSnapshot, type Source } from './client'
import { Often, spelledOut } from './often'
import { freshDatabase, runner } from './testing'
import { together } from './together'

describe('what comes often gets a name', () => {
  test('from its second time on, the same one ever after, and another text another one', () => {
    const often = new Often()
    const names = ['a', 'b', 'a', 'b', 'a', 'b'].map((text) => often.nameOf(text))
    expect(names.slice(0, 2)).toEqual([undefined, undefined])
    expect(names[2]).toBeDefined()
    expect(names[3]).toBeDefined()
    expect(names[3]).not.toBe(names[2])
    expect(names.slice(4)).toEqual(names.slice(2, 4))
  })
  test('texts that come once fill nothing up: what comes twice in a row after a hundred thousand of them has its name', () => {
    const often = new Often(10)
    for (let i = 0; i < 100_000; i++) expect(often.nameOf(`once ${i}`)).toBeUndefined()
    often.nameOf('often')
    expect(often.nameOf('often')).toBeDefined()
  })
  test('there are no more names than a connection shall keep plans', () => {
    const often = new Often(3)
    const named = [...Array(20).keys()].filter((i) => {
      often.nameOf(`text ${i}`)
      return often.nameOf(`text ${i}`) !== undefined
    })
    expect(named).toEqual([0, 1, 2])
    expect(often.nameOf('text 1')).toBeDefined()
    expect(often.nameOf('text 9')).toBeUndefined()
  })
})

describe('what is the same every time is written into a read', () => {
  test('a yes or no, and how many rows at most; the rest stays a value, under its new number', () => {
    expect(spelledOut('select $1::text, $2, $3 from unit where a = $2 limit $4', ['x', true, 7, 20])).toEqual({
      text: 'select $1::text, true, $2 from unit where a = true limit 20',
      values: ['x', 7],
    })
    expect(spelledOut('  with a as (select 1 limit $1) select * from a limit $2', [5, 6])).toEqual({
      text: '  with a as (select 1 limit 5) select * from a limit 6',
      values: [],
    })
  })
  test('what writes, what has a sign within a text, and what is no number of rows stays as it is', () => {
    for (const [text, values] of [
      ['insert into a (b) values ($1)', [true]],
      ["select '$1', $1 limit $2", [true, 4]],
      ["select 'it''s $2' limit $1", [4, 1]],
      ['select 1 limit $1', ['4; drop table unit']],
      ['select 1 limit $1', [-1]],
      ['select 1 limit $1', [1.5]],
      ['select 1 limit $1', [null]],
      ['select $1', ['true']],
    ] as [string, unknown[]][])
      expect(spelledOut(text, values)).toEqual({ text, values })
    expect(spelledOut("select 'a', $1, 'b' limit $2", ['c', 4]).text).toBe("select 'a', $1, 'b' limit 4")
  })
})

describe('over a connection', () => {
  let db: Db
  let end: () => Promise<void>
  beforeAll(async () => {
    ;({ db, end } = await freshDatabase())
  })
  afterAll(() => end())
  const run = runner(() => db)
  const plansKept = async (source: Source): Promise<string[]> =>
    (await source.execute(sql`select statement from pg_prepared_statements where name like 'often%'`)).rows.map((r) =>
      String(r.statement),
    )
  const doubled = async (source: Source, n: number): Promise<number> =>
    Number((await source.execute(sql`select ${n}::int * 2 as twice`)).rows[0]?.twice)

  test('it is planned once, and answers with the values of every time', async () => {
    await inSnapshot(db, async (source) => {
      for (let n = 0; n < 8; n++) expect(await doubled(source, n)).toBe(n * 2)
      expect((await plansKept(source)).filter((text) => text.includes('as twice'))).toHaveLength(1)
    })
  })
  test('asked many at once down one line, each gets its own answer', async () => {
    await inSnapshot(db, async (source) => {
      const asked = [...Array(50).keys()]
      expect(await Promise.all(asked.map((n) => doubled(source, n)))).toEqual(asked.map((n) => n * 2))
    })
  })
  test('whatever is asked, the answer is the one that values as such would give', async () => {
    const value = fc.oneof(
      fc.boolean(),
      fc.integer({ min: -5, max: 40 }),
      fc.string({ maxLength: 8 }),
      fc.constant(null),
    )
    await fc.assert(
      fc.asyncProperty(fc.array(value, { maxLength: 12 }), fc.nat(6), async (given, most) => {
        const kept = given.map((v) => (typeof v === 'string' ? v.replaceAll('\0', '') : v))
        const asked = sql.join(
          kept.map((v) =>
            typeof v === 'boolean' ? sql`${v}::text` : typeof v === 'number' ? sql`${v}::int::text` : sql`${v}::text`,
          ),
          sql`, `,
        )
        const found = await db.execute<{ x: string | null }>(
          sql`select x from unnest(array[${kept.length > 0 ? asked : sql`null::text`}]) with ordinality t(x, n) where ${true} order by n limit ${most}`,
        )
        const expected = (kept.length > 0 ? kept : [null]).slice(0, most).map((v) => (v === null ? null : String(v)))
        expect(found.rows.map((r) => r.x)).toEqual(expected)
      }),
      { numRuns: 60 },
    )
  })
  test('one that could not be read in a transaction that had failed is read in the next', async () => {
    const tripled = async (source: Source, n: number) =>
      Number((await source.execute(sql`select ${n}::int * 3 as thrice`)).rows[0]?.thrice)
    await expect(
      db.transaction(async (tx) => {
        await tx.execute(sql`select ${1}::int / 0 as nothing`).catch(() => {})
        await tripled(tx, 1).catch(() => {})
        await tripled(tx, 2)
      }),
    ).rejects.toThrow()
    for (let i = 0; i < 6; i++) expect(await inSnapshot(db, (source) => tripled(source, i))).toBe(3 * i)
  })
  test('a plan made before an index, or rows, were there answers rightly afterwards', async () => {
    const named = (source: Source, name: string) =>
      source.execute(sql`select number from unit where name = ${name} and ${1}::int = 1`).then((r) => r.rows.length)
    for (let i = 0; i < 8; i++) expect(await named(db, 'Plan')).toBe(0)
    await run('create-unit', { number: 811, name: 'Plan', boardId: null })
    await db.execute(sql`create index unit_by_name_for_a_test on unit (name)`)
    for (let i = 0; i < 8; i++) expect(await named(db, 'Plan')).toBe(1)
  })
})

describe('reads asked together', () => {
  test('stand under their names, with what was there already', async () => {
    expect(await together({ late: Promise.resolve('l'), now: 3, none: null })).toEqual({
      late: 'l',
      now: 3,
      none: null,
    })
  })
  test('one that fails fails all, and none of the others is left unheard', async () => {
    const unheard: unknown[] = []
    const hear = (cause: unknown) => unheard.push(cause)
    process.on('unhandledRejection', hear)
    const late = new Promise((_, reject) => setTimeout(() => reject(new Error('later')), 5))
    await expect(together({ first: Promise.reject(new Error('first')), late, fine: 1 })).rejects.toThrow('first')
    await new Promise((done) => setTimeout(done, 20))
    process.off('unhandledRejection', hear)
    expect(unheard).toEqual([])
  })
})
