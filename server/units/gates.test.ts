import type { GateId, StepId } from '@fresh-coat/core/unit/way'
import { and, eq, isNull } from 'drizzle-orm'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { codeOf, freshDatabase, heldVersion, runner, unplug } from '../db/testing'
import { loadUnit } from './load'

let db: Db
let end: () => Promise<void>
let boardId: string
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
  boardId = (await run('create-board', { maker: 'Pellworth', product: 'P1', mains: true })).id as string
})
afterAll(() => end())
const run = runner(() => db)
let number = 0
const arrive = async () =>
  (await run('create-unit', { number: ++number, name: `Gated ${number}`, boardId })).id as string
const save = async (unitId: string, step: StepId, data: object) =>
  run('save-step', { unitId, step, version: await heldVersion(db, unitId, step), data })
const confirm = (unitId: string, gate: GateId, more: object = {}, at = new Date()) =>
  runCommand(db, 'confirm-gate', { unitId, gate, ...more }, at)
const standing = async (unitId: string) =>
  (
    await db
      .select()
      .from(schema.gate)
      .where(and(eq(schema.gate.unitId, unitId), isNull(schema.gate.clearedAt), isNull(schema.gate.struckAt)))
  )
    .map((g) => g.gate)
    .sort()
const failedRead = (unitId: string) => ({
  unitId,
  action: 'read',
  outcome: 'lost-midway',
  minutes: 2,
  verify: 'none',
  verified: false,
})

describe('the way to the mains', () => {
  test('stays shut for a case of which nothing was written down, until somebody has counted', async () => {
    const unitId = await arrive()
    await save(unitId, 'arrive', { route: 'wires-in-place' })
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('not-closed')
    await save(unitId, 'close', { fastenersOut: 2, fastenersBack: 2, looseParts: 0, unharmed: 'yes' })
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('ok')
  })
  test('stays shut while a question about a forced case has no safe answer', async () => {
    const unitId = await arrive()
    await save(unitId, 'close', { fastenersOut: 0, fastenersBack: 0, looseParts: 0, unharmed: 'no' })
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('not-asked')
    const answers = { 'holds-tug': 'yes', 'finger-reaches': 'yes', 'crack-near-mains': 'no' }
    await save(unitId, 'close', { answers })
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('case-unsafe')
    await save(unitId, 'close', { answers: { ...answers, 'finger-reaches': 'no' } })
    // Force bends boards: its contacts are measured before any power.
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('not-measured')
    await save(unitId, 'pads', { pads: ['3V3', 'GND'] })
    await save(unitId, 'close', { refit: { readings: { rail: 400, '1-2': 400, 'C-1': 0.2, 'C-2': 0.2 }, sure: [] } })
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('ok')
  })
  test('stays shut for a bridge that the meter found, on the rail of a bench supply too, and opens once it is mended', async () => {
    const unitId = await arrive()
    await save(unitId, 'arrive', { route: 'module-off' })
    await save(unitId, 'pads', { pads: ['3V3', 'GND', 'TX'] })
    const measured = (ohms: number | null) => ({
      refit: { readings: { rail: 400, '1-2': 400, '2-3': ohms, 'C-1': 0.2, 'C-2': 0.2, 'C-3': 0.2 }, sure: [] },
    })
    await save(unitId, 'close', { ...measured(0.7), fastenersOut: 0, fastenersBack: 0, looseParts: 0, unharmed: 'yes' })
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('bridge')
    expect(codeOf(await confirm(unitId, 'current-limit', { measured: '200' }))).toBe('bridge')
    // What only unplugs it is never in the way.
    expect(codeOf(await confirm(unitId, 'mains-off'))).toBe('ok')
    await save(unitId, 'close', measured(null))
    expect(codeOf(await confirm(unitId, 'current-limit', { measured: '200' }))).toBe('ok')
    expect(codeOf(await confirm(unitId, 'case-closed'))).toBe('ok')
  })
  test('the rails of good units come back as what is known of their board', async () => {
    const unitId = await arrive()
    await save(unitId, 'arrive', { route: 'module-off' })
    await save(unitId, 'pads', { pads: ['3V3', 'GND'] })
    await save(unitId, 'close', {
      moduleBack: true,
      refit: { readings: { rail: 412, '1-2': 412, 'C-1': 0.2, 'C-2': 0.2 }, sure: [] },
      fastenersOut: 0,
      fastenersBack: 0,
      looseParts: 0,
      unharmed: 'yes',
    })
    await confirm(unitId, 'mains-off')
    await confirm(unitId, 'discharged', { measured: '0', early: true })
    expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'close' }))).toBe('ok')
    expect((await loadUnit(db, unitId, new Date()))?.board?.rails).toEqual([{ unit: number, ohms: 412 }])
  })
})

describe('the discharge clock', () => {
  const now = new Date('2026-11-27T10:00:00Z')
  const after = (seconds: number) => new Date(now.getTime() + seconds * 1000)
  test('does not run before somebody has said “unplugged”', async () => {
    const unitId = await arrive()
    expect(codeOf(await confirm(unitId, 'discharged', { measured: '0.4', early: true }))).toBe('unplug-first')
  })
  test('refuses a confirmation a second later, and takes it when its time is over', async () => {
    const unitId = await arrive()
    await confirm(unitId, 'mains-off', {}, now)
    expect(codeOf(await confirm(unitId, 'discharged', { measured: '0.4' }, after(1)))).toBe('wait')
    expect(codeOf(await confirm(unitId, 'discharged', { measured: '0.4' }, after(476)))).toBe('wait')
    expect(codeOf(await confirm(unitId, 'discharged', { measured: '0.4' }, after(478)))).toBe('ok')
  })
  test('is ended early only on purpose and below 30 V, and the log says so', async () => {
    const unitId = await arrive()
    await confirm(unitId, 'mains-off', {}, now)
    expect(codeOf(await confirm(unitId, 'discharged', { measured: '30', early: true }, after(5)))).toBe('wait')
    expect(codeOf(await confirm(unitId, 'discharged', { measured: '1,2', early: true }, after(6)))).toBe('ok')
    const events = await db.select().from(schema.event).where(eq(schema.event.unitId, unitId))
    expect(events.map((e) => e.sentence).join('\n')).toMatch(/discharged, 1,2 V, before the clock was over/)
  })
})

describe('every attempt ends “unplugged”', () => {
  test('a read that dropped does', async () => {
    const unitId = await arrive()
    await unplug(run, unitId)
    await run('log-attempt', failedRead(unitId))
    expect(await standing(unitId)).toEqual(['discharged'])
    expect(codeOf(await runCommand(db, 'log-attempt', failedRead(unitId)))).toBe('gate-open')
  })
  test('and the step that is over can be done all the same', async () => {
    const unitId = await arrive()
    await save(unitId, 'arrive', { route: 'wires-in-place', triedAsSold: 'works', load: 'lamp' })
    await unplug(run, unitId)
    await save(unitId, 'backup', { skip: { code: 'owner', reason: 'The owner keeps a second one at home.' } })
    await run('log-attempt', failedRead(unitId))
    expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'backup' }))).toBe('ok')
  })
  test('undoing the attempt does not open the gate again', async () => {
    const unitId = await arrive()
    await unplug(run, unitId)
    await run('log-attempt', failedRead(unitId))
    await run('undo', { unitId })
    expect(await standing(unitId)).toEqual(['discharged'])
  })
  test('a step that is reopened asks for its gates anew, for Done too', async () => {
    const unitId = await arrive()
    await unplug(run, unitId)
    await save(unitId, 'backup', { skip: { code: 'owner', reason: 'The owner keeps a second one at home.' } })
    await run('finish-step', { unitId, step: 'backup' })
    await run('reopen-step', { unitId, step: 'backup' })
    expect(await standing(unitId)).toEqual([])
    expect(codeOf(await runCommand(db, 'finish-step', { unitId, step: 'backup' }))).toBe('not-yet')
  })
})

describe('a bench supply', () => {
  test.each([
    ['', 'limit-first'],
    ['none', 'limit-first'],
    ['0', 'limit-first'],
    ['5000', 'limit-first'],
    ['400', 'ok'],
  ])('with a limit of “%s” mA: %s', async (measured, code) =>
    expect(codeOf(await confirm(await arrive(), 'current-limit', { measured }))).toBe(code),
  )
})

describe('a latch on a way out', () => {
  const latch = { route: 'wires-in-place', triedAsSold: 'works' }
  const ready = async (data: object) => {
    const unitId = await arrive()
    await save(unitId, 'arrive', { ...latch, ...data })
    await unplug(run, unitId)
    await save(unitId, 'backup', { skip: { code: 'owner', reason: 'The owner keeps a second one at home.' } })
    return codeOf(await runCommand(db, 'finish-step', { unitId, step: 'backup' }))
  }
  test('is asked about before any later step, and not knowing is not enough', async () => {
    expect(await ready({ load: 'latch-unlocks' })).toBe('not-yet')
    expect(await ready({ load: 'latch-unlocks', wayOut: false })).toBe('ok')
  })
  test('has to open when its supply goes, and by hand from inside', async () => {
    expect(await ready({ load: 'latch-locks', wayOut: true, opensByHand: true })).toBe('not-yet')
    expect(await ready({ load: 'latch-unlocks', wayOut: true, opensByHand: false })).toBe('not-yet')
    expect(await ready({ load: 'latch-unlocks', wayOut: true, opensByHand: true })).toBe('ok')
  })
})

test('the last write counts: an older good one does not finish a step whose newest attempt broke off', async () => {
  const unitId = await arrive()
  const view = async () => {
    const found = await loadUnit(db, unitId, new Date())
    if (!found) throw new Error('gone')
    return found
  }
  const data = (outcome: string) => ({
    outcome,
    sha256: 'f00d',
    verify: 'digest',
    verified: true,
    minutes: 3,
    fileName: 'x',
  })
  const at = (minute: number) => new Date(Date.now() - (60 - minute) * 60_000)
  await db.insert(schema.attempt).values({ unitId, at: at(1), data: data('done') })
  const { conditions } = await import('@fresh-coat/core/steps/write/conditions')
  expect(conditions(await view())[0]?.met).toBe(true)
  // Nobody answered: nothing on the chip was touched.
  await db.insert(schema.attempt).values({ unitId, at: at(2), data: data('no-answer') })
  expect(conditions(await view())[0]?.met).toBe(true)
  await db.insert(schema.attempt).values({ unitId, at: at(3), data: data('lost-midway') })
  expect(conditions(await view())[0]).toMatchObject({ met: false, text: 'The last attempt was lost midway.' })
})
