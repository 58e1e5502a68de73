import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { and, desc, eq, gt, isNull } from 'drizzle-orm'
import { runCommand } from '../commands'
import { recountPace } from '../units/pace'
import { settleAll } from '../units/settle'
import type { Db } from './client'
import { settleRipples } from './ripple'
import * as schema from './schema'
import { freshDatabase, heldVersion, runner, unplug } from './testing'
import { openGates, told, worldOf } from './testing-walk'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-undo-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)

const newestUndoable = async () =>
  (
    await db
      .select({ id: schema.event.id })
      .from(schema.event)
      .where(and(schema.event.undoable, isNull(schema.event.undoneAt)))
      .orderBy(desc(schema.event.id))
      .limit(1)
  )[0]?.id ?? 0

async function states() {
  const rows = await db.select().from(schema.unitState).orderBy(schema.unitState.unitId)
  const pace = await db.select().from(schema.unitPace).orderBy(schema.unitPace.unitId)
  return { rows, pace: pace.map((p) => ({ ...p, minutes: Math.round(p.minutes * 100) / 100 })) }
}

/** Seeds that run with every test; UNDO_SEEDS=100 runs as many as were asked for once. */
const seeds = Number(process.env.UNDO_SEEDS ?? 6)
const commandsPerSeed = 100

describe.each(Array.from({ length: seeds }, (_, i) => i + 1))('a hundred random commands, seed %i', (seed) => {
  let before: Record<string, unknown>
  let mark = 0
  const world = () => worldOf(db, seed * 7919)
  let at: () => Date
  test('what lists read is what a rebuild gives', async () => {
    before = await told(db)
    mark = await newestUndoable()
    const walk = world()
    at = walk.at
    for (let i = 0; i < commandsPerSeed; i++) await walk.step()
    await settleRipples(db)
    const kept = await states()
    await settleAll(db, new Date())
    await recountPace(db)
    expect(await states()).toEqual(kept)
  }, 120_000)
  test('as many undos end where it began: none jams, whichever unit they begin with', async () => {
    const walk = worldOf(db, seed)
    for (let i = 0; ; i++) {
      const [open] = await db
        .select({ id: schema.event.id, unitId: schema.event.unitId })
        .from(schema.event)
        .where(and(schema.event.undoable, isNull(schema.event.undoneAt), gt(schema.event.id, mark)))
        .orderBy(desc(schema.event.id))
        .limit(1)
      if (!open) break
      // Mostly the newest of all, sometimes the newest of one unit: both are keys that a person presses.
      const units = await db
        .select({ id: schema.event.unitId })
        .from(schema.event)
        .where(and(schema.event.undoable, isNull(schema.event.undoneAt), gt(schema.event.id, mark)))
      const one = walk.d.int(4) === 0 ? (walk.d.of(units).id ?? null) : null
      const done = await runCommand(db, 'undo', { unitId: one }, new Date(at().getTime() + (i + 1) * 1000))
      expect(done.ok ? '' : `${done.error.code}: ${done.error.message}`).toBe('')
    }
    expect(await told(db)).toEqual(before)
    expect(await openGates(db)).toEqual([])
  }, 120_000)
})

describe('undo, one thing at a time', () => {
  const arrive = async (number: number) => (await run('create-unit', { number, name: `Undo ${number}` })).id as string

  test('says in words what goes back', async () => {
    const unitId = await arrive(701)
    await run('save-step', {
      unitId,
      step: 'meter',
      version: 0,
      data: { warm: true, points: [{ id: 'a', indicated: 5, reference: 5 }] },
    })
    const later = new Date(Date.now() + 20 * 60_000)
    const version = await heldVersion(db, unitId, 'meter')
    await run('save-step', { unitId, step: 'meter', version, data: { limitPct: 3, points: [] } }, later)
    expect(await run('undo', { unitId })).toEqual({
      undone: '701 Meter: limit pct: 3; points: nothing',
      back: 'limitPct; 1 entry',
    })
  })
  test('a creation with an attempt and a secret: each is taken back in turn, and nothing stands in the way', async () => {
    const unitId = await arrive(702)
    await unplug(run, unitId)
    await run('log-attempt', {
      unitId,
      action: 'read',
      outcome: 'no-answer',
      minutes: 2,
      verify: 'none',
      verified: false,
    })
    await run('keep-secret', { unitId, name: 'Key', value: 'made-up' })
    for (let i = 0; i < 5; i++) await run('undo', { unitId })
    expect((await runCommand(db, 'undo', { unitId })).ok).toBe(false)
    const [row] = await db.select().from(schema.unit).where(eq(schema.unit.id, unitId))
    // Struck, not removed: the ledger still knows what it was.
    expect(row?.struckAt).not.toBe(null)
    expect((await run('create-unit', { number: 702, name: 'Its number is free again' })).number).toBe(702)
  })
  test('setting the site is taken back by itself, not some other change', async () => {
    const unitId = await arrive(703)
    await run('set-site', { name: 'Yard', base: 'yard', slug: 'lantern' })
    expect(await run('undo', { unitId: null })).toMatchObject({ undone: 'site is Yard' })
    const [row] = await db.select().from(schema.unit).where(eq(schema.unit.id, unitId))
    expect(row?.struckAt).toBe(null)
  })
  test('an attempt undone is struck and still told; the gate that it cleared stays closed', async () => {
    const unitId = await arrive(704)
    await unplug(run, unitId)
    await run('log-attempt', {
      unitId,
      action: 'read',
      outcome: 'no-answer',
      minutes: 2,
      verify: 'none',
      verified: false,
    })
    await run('undo', { unitId })
    const gates = await openGates(db)
    expect(gates.filter((g) => g.unitId === unitId).map((g) => g.gate)).toEqual(['discharged'])
    const [attempt] = await db.select().from(schema.attempt).where(eq(schema.attempt.unitId, unitId))
    expect(attempt?.struckAt).not.toBe(null)
  })
  test('two people press undo at once: two things are taken back, or one of them is told there is nothing', async () => {
    const unitId = await arrive(705)
    const both = await Promise.all([runCommand(db, 'undo', { unitId }), runCommand(db, 'undo', { unitId })])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect(both.map((r) => (r.ok ? 'ok' : r.error.code)).sort()).toEqual(['nothing-to-undo', 'ok'])
  })
})

describe('typing', () => {
  test('in one record within ten minutes is one event, whose patch is the whole way', async () => {
    const unitId = (await run('create-unit', { number: 711, name: 'Typed' })).id as string
    const at = (minute: number) => new Date(Date.now() + minute * 60_000)
    let version = 0
    for (const [minute, note] of [
      [1, 'G'],
      [2, 'Gl'],
      [3, 'Glue'],
      [30, 'Glue pot'],
    ] as const)
      version = (await run('save-step', { unitId, step: 'pads', version, data: { note } }, at(minute)))
        .version as number
    const events = await db
      .select()
      .from(schema.event)
      .where(and(eq(schema.event.unitId, unitId), eq(schema.event.kind, 'step-edited')))
    expect(events).toHaveLength(2)
    await run('undo', { unitId })
    await run('undo', { unitId })
    expect(await heldVersion(db, unitId, 'pads')).toBe(0)
  })
  test('a long log saved again with another field costs a hash, not a copy', async () => {
    const unitId = (await run('create-unit', { number: 712, name: 'Long log' })).id as string
    const log = 'boot text '.repeat(90_000)
    const first = await run('save-step', { unitId, step: 'start', version: 0, data: { log } })
    const later = new Date(Date.now() + 60 * 60_000)
    await run('save-step', { unitId, step: 'start', version: first.version, data: { strapFree: true } }, later)
    const rows = await db
      .select({ patch: schema.eventRow.patch })
      .from(schema.eventRow)
      .innerJoin(schema.event, eq(schema.event.id, schema.eventRow.eventId))
      .where(eq(schema.event.unitId, unitId))
    expect(Math.max(...rows.map((r) => JSON.stringify(r.patch).length))).toBeLessThan(2000)
  })
})
