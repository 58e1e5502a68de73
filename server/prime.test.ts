import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { png } from '../demo/pictures'
import { type CommandName, runCommand } from './commands'
import type { Db } from './db/client'
import type { CommandResult } from './db/fault'
import { recentEvents } from './db/log'
import * as schema from './db/schema'
import { freshDatabase } from './db/testing'
import { loadAll } from './db/testing-reads'
import { keepFile } from './files/keep'
import { practiceRuns } from './practice/reads'
import { costOfRoutes, paceOfBoard } from './units/pace'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-prime-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())

const run = async (command: CommandName, input: Record<string, unknown>, now?: Date) => {
  const result = await runCommand(db, command, input, now)
  if (!result.ok) throw new Error(`${result.error.code}: ${result.error.message}`)
  return result.value
}
const codeOf = (result: CommandResult) => (result.ok ? 'ok' : result.error.code)
let next = 500
const boardOf = async (name: string) =>
  (await run('create-board', { maker: 'Pellworth', product: name, revision: 'a' })).id as string
const arrive = async (boardId: string | null = null) => {
  const number = next++
  return { id: (await run('create-unit', { number, name: `Lamp ${number}`, boardId })).id as string, number }
}
const viewOf = async (id: string) => {
  const found = (await loadAll(db)).units.find((u) => u.id === id)
  if (!found) throw new Error('no such unit')
  return found
}
const save = async (unitId: string, step: 'open' | 'arrive' | 'identify', data: object) =>
  run('save-step', { unitId, step, version: (await viewOf(unitId)).records[step].version, data })

describe('gates', () => {
  test.each([
    ['', 'measure-first'],
    ['low', 'measure-first'],
    ['-12', 'measure-first'],
    ['0x1F', 'still-charged'],
    ['30,5', 'still-charged'],
    ['0,4', 'ok'],
  ])('a discharge measured as "%s": %s', async (measured, code) => {
    const { id } = await arrive()
    await run('confirm-gate', { unitId: id, gate: 'mains-off' })
    const said = { unitId: id, gate: 'discharged', measured, early: true }
    expect(codeOf(await runCommand(db, 'confirm-gate', said))).toBe(code)
  })
  test('mains only with the case closed: what is still out keeps the gate shut', async () => {
    const { id } = await arrive()
    await save(id, 'arrive', { route: 'wires-in-place' })
    await save(id, 'open', { fasteners: [{ id: 's', kind: 'screw', count: 2 }] })
    const refused = await runCommand(db, 'confirm-gate', { unitId: id, gate: 'case-closed' })
    expect(refused).toMatchObject({
      ok: false,
      error: { code: 'not-closed', message: expect.stringContaining('2 screws') },
    })
    await run('save-step', { unitId: id, step: 'close', version: 0, data: { restored: { s: 2 } } })
    expect(codeOf(await runCommand(db, 'confirm-gate', { unitId: id, gate: 'case-closed' }))).toBe('ok')
  })
})

describe('trouble', () => {
  test('answers are kept, taken back, undone; the cause teaches the board', async () => {
    const boardId = await boardOf('T1')
    const { id } = await arrive(boardId)
    const search = (await run('open-trouble', { unitId: id, step: 'write', symptom: 'no_answer' })).id
    await run('answer-trouble', { troubleId: search, test: 'swap_helps', yes: true })
    await run('answer-trouble', { troubleId: search, test: 'wiggle', yes: false })
    await run('answer-trouble', { troubleId: search, test: 'wiggle', yes: null })
    expect((await viewOf(id)).troubles[0]?.answers).toEqual([{ test: 'swap_helps', yes: true }])
    await run('undo', { unitId: id })
    expect((await viewOf(id)).troubles[0]?.answers).toHaveLength(2)
    await run('close-trouble', { troubleId: search, cause: 'txrx_swapped' })
    expect((await viewOf(id)).board?.causes).toEqual({ txrx_swapped: 1 })
    expect(codeOf(await runCommand(db, 'answer-trouble', { troubleId: search, test: 'wiggle', yes: true }))).toBe(
      'closed',
    )
  })
  test('what is not in the table is refused', async () => {
    const { id } = await arrive()
    expect(codeOf(await runCommand(db, 'open-trouble', { unitId: id, step: 'wire', symptom: 'smoke' }))).toBe('input')
    const search = (await run('open-trouble', { unitId: id, step: 'wire', symptom: 'garbled' })).id
    expect(codeOf(await runCommand(db, 'answer-trouble', { troubleId: search, test: 'pray', yes: true }))).toBe(
      'unknown-test',
    )
    expect(codeOf(await runCommand(db, 'close-trouble', { troubleId: search, cause: 'bad luck' }))).toBe(
      'unknown-cause',
    )
    expect(codeOf(await runCommand(db, 'close-trouble', { troubleId: search, cause: 'other', note: 'x' }))).toBe(
      'no-note',
    )
  })
})

describe('batches and markings', () => {
  test('another one of these: its board and route, its own number', async () => {
    const boardId = await boardOf('B1')
    const { id } = await arrive(boardId)
    await save(id, 'arrive', { route: 'module-off', triedAsSold: 'works', ratedAmps: 10 })
    const number = next++
    const made = await run('another-unit', { unitId: id, number, name: 'Lamp again' })
    const view = await viewOf(made.id as string)
    expect(view).toMatchObject({ number, board: { id: boardId }, route: 'module-off' })
    expect(view.records.arrive.data).toMatchObject({ ratedAmps: 10, triedAsSold: null })
    expect(codeOf(await runCommand(db, 'another-unit', { unitId: id, number, name: 'Twice' }))).toBe('number-taken')
    const alone = await arrive()
    expect(codeOf(await runCommand(db, 'another-unit', { unitId: alone.id, number: next++, name: 'x' }))).toBe(
      'no-board',
    )
  })
  test('a print counts once its unit is identified, and never for an unsplit ARM968', async () => {
    const counted = async (printed: string, evidence: object[]) => {
      const { id } = await arrive(await boardOf(`M ${printed}`))
      await save(id, 'identify', { printed, evidence })
      await run('finish-step', { unitId: id, step: 'identify' })
      return (await loadAll(db)).markings.find((m) => m.text === printed)?.units.map((u) => u.family)
    }
    expect(
      await counted('QX 1', [
        { kind: 'crystal', value: '26' },
        { kind: 'sync_reply', value: 'slip' },
        { kind: 'boot_text', value: 'cause_74880' },
      ]),
    ).toEqual(['LX106'])
    expect(
      await counted('QX 2', [
        { kind: 'crystal', value: '26' },
        { kind: 'flash_chip', value: 'none' },
        { kind: 'sync_reply', value: 'hci_link' },
      ]),
    ).toEqual([])
  })
  test('counts by hand replace each other; a print without a letter is refused', async () => {
    await run('keep-marking', { text: 'ZZ-9', counts: { LX6: 2 } })
    await run('keep-marking', { text: 'zz 9', counts: { LX6: 3 } })
    expect((await loadAll(db)).markings.find((m) => m.key === 'ZZ9')?.own).toEqual({ LX6: 3 })
    expect(codeOf(await runCommand(db, 'keep-marking', { text: '--', counts: {} }))).toBe('no-marking')
  })
  test('chances of before: they must add up to 1, and go back to the shipped ones', async () => {
    expect(codeOf(await runCommand(db, 'set-prior', { prior: { LX6: 0.5 } }))).toBe('input')
    await run('set-prior', { prior: { LX6: 0.6, LX106: 0.4 } })
    expect((await loadAll(db)).prior).toEqual({ LX6: 0.6, LX106: 0.4 })
    await run('set-prior', { prior: null })
    expect((await loadAll(db)).prior).toBe(null)
  })
  test('evidence from a boot text lands at Identify; nonsense does not', async () => {
    const { id } = await arrive()
    await run('add-evidence', { unitId: id, kind: 'boot_text', value: 'cause_74880' })
    expect((await viewOf(id)).records.identify.data.evidence).toEqual([{ kind: 'boot_text', value: 'cause_74880' }])
    expect(codeOf(await runCommand(db, 'add-evidence', { unitId: id, kind: 'boot_text', value: 'warm' }))).toBe('input')
  })
  test('minutes of a unit come from its events', async () => {
    const boardId = await boardOf('P1')
    const at = (minute: number) => new Date(Date.UTC(2026, 10, 20, 9, minute))
    const number = next++
    const id = (await run('create-unit', { number, name: 'Timed', boardId }, at(0))).id as string
    await run('take-in-hand', { unitId: id }, at(7))
    await run('put-back', { unitId: id }, at(19))
    expect((await paceOfBoard(db, boardId)).units).toEqual([{ number, minutes: 20, done: false }])
  })
  test('what a route costs is the median of proven units, and of the prices that were written down', async () => {
    const took = async (minutes: number, paid: number | null, proven = true) => {
      const { id } = await arrive()
      await save(id, 'arrive', { route: 'module-replaced', triedAsSold: 'works', paid })
      await db.update(schema.unitPace).set({ minutes, proven }).where(eq(schema.unitPace.unitId, id))
    }
    expect((await costOfRoutes(db))['module-replaced']).toBeUndefined()
    await took(30, 8)
    await took(50, null)
    await took(40, 10)
    await took(900, 500, false)
    expect((await costOfRoutes(db))['module-replaced']).toEqual({
      units: 3,
      died: 0,
      minutes: 40,
      taken: [30, 50, 40],
      paid: 9,
      priced: 2,
    })
  })
})

test('practice is kept apart: no event, no unit', async () => {
  const before = await recentEvents(db, 200)
  await run('keep-practice', { kind: 'rehearsal', family: 'LX106', score: 85, data: { goal: 'download' } })
  expect((await practiceRuns(db))[0]).toMatchObject({ kind: 'rehearsal', score: 85 })
  expect(await recentEvents(db, 200)).toEqual(before)
})

test('photos: no picture, no pixels and half a picture are refused; a tag can be corrected', async () => {
  const { id } = await arrive()
  const keep = (bytes: Uint8Array) =>
    keepFile(db, { kind: 'photo', name: 'x.png', unitId: id, read: null, tag: 'board_top' }, bytes)
  const whole = png(4, 4, () => [1, 2, 3])
  const flat = new Uint8Array(whole)
  new DataView(flat.buffer, flat.byteOffset).setUint32(16, 0)
  expect(codeOf(await keep(whole.subarray(0, 12)))).toBe('no-photo')
  expect(codeOf(await keep(flat))).toBe('no-photo')
  const kept = await keep(whole)
  if (!kept.ok) throw new Error(kept.error.message)
  await run('tag-photo', { fileId: kept.value.id, tag: 'seam_before' })
  expect((await viewOf(id)).files[0]?.tag).toBe('seam_before')
})
