import { planTopics } from '@fresh-coat/core/topics/plan'
import { heard, heardClashes } from '@fresh-coat/core/topics/spoken'
import { asc, eq, isNull } from 'drizzle-orm'
import fc from 'fast-check'
import { runCommand } from '../commands'
import { connect, type Db } from '../db/client'
import { settleRipples } from '../db/ripple'
import * as schema from '../db/schema'
import { codeOf, freshDatabase, heldVersion, runner } from '../db/testing'
import { renewClashes } from './clashes'
import { nameClashes, slugClashes } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
const create = async (number: number, name: string) => (await run('create-unit', { number, name })).id as string
const unitOf = async (id: string) =>
  (await db.select().from(schema.unit).where(eq(schema.unit.id, id)))[0] as typeof schema.unit.$inferSelect
const slug = async (id: string) => (await unitOf(id)).slug
const rename = async (id: string, name: string) =>
  run('edit-unit', { unitId: id, version: (await unitOf(id)).version, name })
const pin = async (id: string, pinned: string) =>
  runCommand(db, 'save-step', {
    unitId: id,
    step: 'name',
    version: await heldVersion(db, id, 'name'),
    data: { pinned },
  })
const serve = (id: string) => db.update(schema.unit).set({ inService: true }).where(eq(schema.unit.id, id))

describe('topics of units with equal names', () => {
  test('each gets its number, and the one that is left alone gets the bare name back', async () => {
    const [one, two] = [await create(7, 'Glue pot'), await create(8, 'Glue Pot!')]
    expect([await slug(one), await slug(two)]).toEqual(['glue-pot-7', 'glue-pot-8'])
    await rename(two, 'Paste pot')
    expect([await slug(one), await slug(two)]).toEqual(['glue-pot', 'paste-pot'])
  })
  test('a unit in service keeps its topic, whoever comes; only the newcomer is numbered', async () => {
    const old = await create(20, 'Spotlight')
    await serve(old)
    const newcomer = await create(21, 'Spotlight')
    expect([await slug(old), await slug(newcomer)]).toEqual(['spotlight', 'spotlight-21'])
    const third = await create(22, 'Spotlight')
    expect([await slug(old), await slug(third)]).toEqual(['spotlight', 'spotlight-22'])
    expect(await slugClashes(db)).toContainEqual({ slug: 'spotlight', numbers: [21, 22] })
  })
  test('one in service under its number does not lose it when it is left alone', async () => {
    const [one, two] = [await create(30, 'Fan'), await create(31, 'Fan')]
    await serve(one)
    await rename(two, 'Blower')
    expect(await slug(one)).toBe('fan-30')
  })
  test('a pinned name stays; who had it without a pin makes way, who serves under it does not', async () => {
    const bare = await create(40, 'Lectern')
    const pinned = await create(41, 'Other')
    expect(codeOf(await pin(pinned, 'lectern'))).toBe('ok')
    expect([await slug(pinned), await slug(bare)]).toEqual(['lectern', 'lectern-40'])
    const serving = await create(42, 'Prompt desk')
    await serve(serving)
    const refused = await pin(await create(43, 'Another'), 'prompt-desk')
    expect(refused).toMatchObject({
      ok: false,
      error: { code: 'slug-taken', message: expect.stringMatching(/42.*in service/) },
    })
  })
  test('reserved words are numbered, and names without a letter go by their number', async () => {
    expect(await slug(await create(50, 'Hub'))).toBe('hub-50')
    expect(await slug(await create(51, '大道具'))).toBe('unit-51')
  })
  test.each([
    ['Twin lamp', 60],
    ['Twin fan', 63],
    ['Twin bell', 66],
    ['Twin rope', 69],
  ])('three newcomers called %s at once: all arrive, and their topics differ', async (name, first) => {
    const all = await Promise.all([0, 1, 2].map((i) => runCommand(db, 'create-unit', { number: first + i, name })))
    expect(all.map(codeOf)).toEqual(['ok', 'ok', 'ok'])
    const same = eq(schema.unit.ownSlug, name.toLowerCase().replace(' ', '-'))
    const rows = await db.select().from(schema.unit).where(same)
    expect(new Set(rows.map((r) => r.slug)).size).toBe(3)
  })
})

test('whatever people call things: topics are unique, and nobody shares a bare name', async () => {
  const names = fc.constantFrom(
    'Lamp',
    'lamp',
    'Lamp 1',
    'Lamp-1-2',
    'Hub',
    '大道具',
    'A very long name for one small lamp',
  )
  let number = 1000
  await fc.assert(
    fc.asyncProperty(fc.array(names, { minLength: 1, maxLength: 6 }), async (list) => {
      for (const name of list) await create(++number, name)
      const units = await db
        .select()
        .from(schema.unit)
        .where(isNull(schema.unit.struckAt))
        .orderBy(asc(schema.unit.number))
      expect(new Set(units.map((u) => u.slug)).size).toBe(units.length)
      for (const u of units) {
        const sharers = units.filter((o) => o.ownSlug === u.ownSlug && !o.pinned && !o.inService)
        if (sharers.length > 1 && !u.pinned && !u.inService) expect(u.slug).not.toBe(u.ownSlug)
      }
    }),
    { numRuns: 8 },
  )
})

test('names given one after the other, none in service, stand as the plan for all of them gives', async () => {
  const fresh = await freshDatabase()
  try {
    const go = runner(() => fresh.db)
    const names = ['Lamp', 'Lamp', 'Glue pot', 'Glue Pot!', 'Footlights left', '大道具', 'Hub']
    for (const [i, name] of names.entries()) await go('create-unit', { number: i + 1, name })
    const units = await fresh.db.select().from(schema.unit).orderBy(schema.unit.number)
    const plan = planTopics({
      base: 'home',
      site: 'main',
      units: units.map((u) => ({ id: u.id, number: u.number, name: u.name })),
    })
    expect(plan.ok && plan.value.units.map((u) => u.slug)).toEqual(units.map((u) => u.slug))
  } finally {
    await fresh.end()
  }
})

test('names that are confused when spoken are found when one is given, and forgotten when it changes', async () => {
  const [a, b] = [await create(201, 'Curtain left'), await create(202, 'Kurtain left')]
  await settleRipples(db)
  const of = async () =>
    (await nameClashes(db)).filter((c) => c.a.number === 201 && c.b.number === 202).map((c) => c.code)
  expect(await of()).toEqual(['look-alike'])
  await rename(b, 'Trapdoor')
  await settleRipples(db)
  expect(await of()).toEqual([])
  expect(await slug(a)).toBe('curtain-left')
})

test('one process that compared names before they changed, and writes after another has seen the change, has no last word', async () => {
  const [, b] = [await create(211, 'Backdrop left'), await create(212, 'Packdrop left')]
  await settleRipples(db)
  const of = async () => (await nameClashes(db)).filter((c) => c.b.number === 212).map((c) => c.code)
  expect(await of()).toEqual(['look-alike'])
  await db.transaction(async (late) => {
    await renewClashes(late, [b])
    await rename(b, 'Snow machine')
    // The other may be through with it by now, or waits for this one.
    await Promise.race([settleRipples(db), new Promise((done) => setTimeout(done, 400))])
  })
  await settleRipples(db)
  expect(await of()).toEqual([])
})

test('whatever names come and change, settled by two processes, at once or later: the pairs kept are those of all names', async () => {
  const word = fc.constantFrom(
    'lamp',
    'lamb',
    'stage',
    'left',
    'leeft',
    'café',
    'Übung',
    '3',
    '12',
    '"it\'s\\"',
    'a\tb',
  )
  const name = fc.array(word, { minLength: 1, maxLength: 3 }).map((words) => words.join(' '))
  const fresh = await freshDatabase()
  const other = connect(fresh.url)
  try {
    const runFresh = runner(() => fresh.db)
    const all = () =>
      fresh.db.select().from(schema.unit).where(isNull(schema.unit.struckAt)).orderBy(asc(schema.unit.number))
    let number = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(name, fc.boolean(), fc.nat()), { minLength: 1, maxLength: 6 }),
        async (acts) => {
          const settling: Promise<unknown>[] = []
          for (const [given, isSettled, which] of acts) {
            const held = await all()
            const old = which % 3 === 0 ? held[which % Math.max(1, held.length)] : undefined
            if (old) await runFresh('edit-unit', { unitId: old.id, version: old.version, name: given })
            else await runFresh('create-unit', { number: ++number, name: given })
            const settled = Promise.all([settleRipples(fresh.db), settleRipples(other.db)])
            if (isSettled) await settled
            else settling.push(settled)
          }
          await Promise.all(settling)
          await settleRipples(fresh.db)
          const units = await all()
          const expected = units.flatMap((a, i) =>
            units
              .slice(i + 1)
              .flatMap((b) => heardClashes(heard(a.spoken), heard(b.spoken)).map((c) => [a.id, b.id, c])),
          )
          const kept = (await fresh.db.select().from(schema.nameClash)).map((c) => [c.a, c.b, c.code])
          expect(kept.sort()).toEqual(expected.sort())
        },
      ),
      { numRuns: 12 },
    )
  } finally {
    await other.end()
    await fresh.end()
  }
})
