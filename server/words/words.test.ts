import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { codeOf, freshDatabase, runner, unplug } from '../db/testing'
import { readBlob } from '../files/blobs'
import { loadUnit } from '../units/load'
import { wordsBlob } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-words-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 40
const arrive = async () => (await run('create-unit', { number: ++number, name: `Unit ${number}` })).id as string
const viewOf = async (id: string) => {
  const view = await loadUnit(db, id, new Date())
  if (!view) throw new Error('no such unit')
  return view
}
const text =
  'MAC address B8-3C-D0-77-1E-9A\nflash id 68 4014, 1MB\n230400 baud\nwrote 4096 bytes at 0x1000 in 1.4 s\ndigest does not match'
const mac = { kind: 'mac', value: 'b8:3c:d0:77:1e:9a' }
const flashId = { kind: 'flashId', value: '68 40 14' }

test('facts land at the steps that want them, the text is kept as it came, and undo takes all of it back', async () => {
  const unitId = await arrive()
  const { id } = await run('keep-words', { unitId, step: 'wire', text, tool: 'my own', take: [mac, flashId] })
  const view = await viewOf(unitId)
  expect([view.records.join.data.mac, view.records.backup.data.flashId]).toEqual([mac.value, flashId.value])
  expect(view.words).toMatchObject([
    { id, step: 'wire', tool: 'my own', system: '', outcome: 'bad-bytes', taken: ['mac', 'flashId'] },
  ])
  const kept = await wordsBlob(db, id as string)
  expect(new TextDecoder().decode(await readBlob(db, kept?.sha256 ?? ''))).toBe(text)
  await run('undo', { unitId })
  const back = await viewOf(unitId)
  expect([back.records.join.data.mac, back.records.backup.data.flashId, back.words]).toEqual(['', '', []])
})

test('what the text does not say cannot be taken from it, and then nothing is kept', async () => {
  const unitId = await arrive()
  const wrong = { kind: 'mac', value: 'b8:3c:d0:77:1e:9b' }
  for (const take of [[wrong], [mac, wrong], [{ kind: 'rate', value: 230400 }]])
    expect(codeOf(await runCommand(db, 'keep-words', { unitId, step: 'wire', text, take }))).toBe('not-in-text')
  const view = await viewOf(unitId)
  expect([view.records.join.data.mac, view.words]).toEqual(['', []])
})

test('a step that is done with another value has to be reopened first', async () => {
  const unitId = await arrive()
  await run('save-step', { unitId, step: 'backup', version: 0, data: { flashId: '68 40 16' } })
  await run('save-step', {
    unitId,
    step: 'backup',
    version: 1,
    data: { skip: { code: 'owner', reason: 'The owner does not want one kept.' } },
  })
  await unplug(run, unitId)
  await run('finish-step', { unitId, step: 'backup' })
  expect(codeOf(await runCommand(db, 'keep-words', { unitId, step: 'write', text, take: [flashId] }))).toBe(
    'done-already',
  )
  expect((await viewOf(unitId)).records.backup.data.flashId).toBe('68 40 16')
})

test('no text, one that is too long, and one without a fact', async () => {
  const unitId = await arrive()
  const keep = (words: string) => runCommand(db, 'keep-words', { unitId, step: 'wire', text: words })
  expect(codeOf(await keep('  \n'))).toBe('input')
  expect(codeOf(await keep('x'.repeat(262_145)))).toBe('input')
  expect(codeOf(await keep('it rained\n'.repeat(26_000)))).toBe('ok')
  expect((await viewOf(unitId)).words).toMatchObject([{ facts: [], outcome: null }])
})

test('an attempt names the words that tell of it; words of another unit are refused', async () => {
  const [unitId, other] = [await arrive(), await arrive()]
  const { id: wordsId } = await run('keep-words', {
    unitId,
    step: 'backup',
    text,
    tool: 'my own',
    system: 'the old laptop',
  })
  const attempt = {
    action: 'read',
    outcome: 'no-answer',
    minutes: 2,
    verify: 'none',
    verified: false,
    tool: 'my own',
    system: 'the old laptop',
    wordsId,
  }
  await unplug(run, unitId)
  await run('log-attempt', { ...attempt, unitId })
  expect((await viewOf(unitId)).reads).toMatchObject([{ tool: 'my own', system: 'the old laptop', wordsId }])
  await unplug(run, other)
  expect(codeOf(await runCommand(db, 'log-attempt', { ...attempt, unitId: other }))).toBe('gone')
})

describe('what a chip says of itself over the link', () => {
  const says = { mac: 'b8:3c:d0:77:1e:9a', flashId: '684014', crystalMHz: 26, family: 'LX106' }
  const heard = async (unitId: string, more: object = {}) =>
    run('note-identity', { unitId, step: 'backup', ...says, ...more })
  test('lands in the steps that lack it, and undo takes all of it back', async () => {
    const unitId = await arrive()
    await heard(unitId)
    const { identify, backup, join: joined } = (await viewOf(unitId)).records
    expect([backup.data.flashId, joined.data.mac]).toEqual(['684014', says.mac])
    expect(identify.data.evidence.map((e) => e.kind).sort()).toEqual(['crystal', 'marking'])
    await run('undo', { unitId })
    const back = (await viewOf(unitId)).records
    expect([back.backup.data.flashId, back.join.data.mac, back.identify.data.evidence]).toEqual(['', '', []])
  })
  test('what a person said otherwise stays theirs, and a printed marking stays the evidence that it is', async () => {
    const unitId = await arrive()
    await run('save-step', { unitId, step: 'backup', version: 0, data: { flashId: '68 40 16' } })
    const marking = { kind: 'marking', counts: { LX106: 2, LX6: 1 } }
    await run('save-step', { unitId, step: 'identify', version: 0, data: { evidence: [marking] } })
    await heard(unitId)
    const { identify, backup } = (await viewOf(unitId)).records
    expect(backup.data.flashId).toBe('68 40 16')
    expect(identify.data.evidence.filter((e) => e.kind === 'marking')).toEqual([marking])
  })
  test('said twice it changes nothing more; an address that is none is refused', async () => {
    const unitId = await arrive()
    await heard(unitId)
    const { version } = (await viewOf(unitId)).records.backup
    await heard(unitId)
    expect((await viewOf(unitId)).records.backup.version).toBe(version)
    expect((await runCommand(db, 'note-identity', { unitId, step: 'backup', ...says, mac: 'none' })).ok).toBe(false)
  })
})

test('a unit that is not there any more hears of no chip', async () => {
  const says = { mac: null, flashId: null, crystalMHz: null, family: null }
  const unitId = '00000000-0000-4000-8000-000000000000'
  expect((await runCommand(db, 'note-identity', { unitId, step: 'backup', ...says })).ok).toBe(false)
})
