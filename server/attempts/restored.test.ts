import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { conditions } from '@fresh-coat/core/steps/write/conditions'
import { lx106Stock } from '../../demo/binaries'
import { type CommandName, runCommand } from '../commands'
import type { Db } from '../db/client'
import { freshDatabase, unplug } from '../db/testing'
import { loadAll } from '../db/testing-reads'
import { keepFile } from '../files/keep'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-restored-'))
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = async (command: CommandName, input: Record<string, unknown>) => {
  const result = await runCommand(db, command, input)
  if (!result.ok) throw new Error(`${result.error.code}: ${result.error.message}`)
  return result.value
}
const unitOf = async (id: string) => {
  const unit = (await loadAll(db)).units.find((u) => u.id === id)
  if (!unit) throw new Error('no such unit')
  return unit
}
const stock = lx106Stock(77)
const putBack = (unitId: string, more: object = {}) => ({
  unitId,
  action: 'write',
  outcome: 'done',
  minutes: 3,
  verify: 'readback',
  verified: true,
  baud: 115_200,
  restored: { fromUnit: null },
  ...more,
})
async function withReads(number: number, reads: (1 | 2)[], boardId: string | null = null) {
  const unitId = (await run('create-unit', { number, name: `Put back ${number}`, boardId })).id as string
  for (const read of reads) {
    const kept = await keepFile(db, { kind: 'dump', name: 'stock.bin', unitId, read, tag: null }, stock)
    if (!kept.ok) throw new Error(kept.error.message)
  }
  await unplug(run, unitId)
  return unitId
}

test('stock firmware that was put back is the last write: its hash, and no firmware of ours any more', async () => {
  const unitId = await withReads(801, [1, 2])
  await run('log-attempt', putBack(unitId))
  const unit = await unitOf(unitId)
  const [file] = unit.files
  expect(unit.attempts[0]).toMatchObject({
    outcome: 'done',
    firmware: 'stock firmware',
    sha256: file?.sha256,
    bytes: stock.length,
    offset: 0,
    baud: 115_200,
  })
  // Like any attempt it ends the confirmation that the unit is off the mains.
  const again = await runCommand(db, 'log-attempt', putBack(unitId))
  expect(again.ok ? '' : again.error.code).toBe('gate-open')
  await run('undo', { unitId })
  expect((await unitOf(unitId)).attempts).toEqual([])
})

test('what is asked at Write is told of it: another file stands on the chip than the one that was checked', async () => {
  const unitId = await withReads(802, [1, 2])
  await run('log-attempt', putBack(unitId))
  const unit = await unitOf(unitId)
  const image = { ...unit.files[0], sha256: 'f'.repeat(64) } as NonNullable<typeof unit.image>
  expect(conditions({ ...unit, image }).at(-1)).toMatchObject({ met: false })
})

test('without a copy that may go back nothing is logged as put back', async () => {
  const unitId = await withReads(803, [])
  const none = await runCommand(db, 'log-attempt', putBack(unitId))
  expect(none.ok ? '' : none.error.code).toBe('no-backup')
  const ofStranger = await runCommand(db, 'log-attempt', putBack(unitId, { restored: { fromUnit: 801 } }))
  expect(ofStranger.ok ? '' : ofStranger.error.code).toBe('no-backup')
  expect((await unitOf(unitId)).attempts).toEqual([])
})

test('that of a twin goes back under the twin’s hash', async () => {
  const boardId = (await run('create-board', { maker: 'Harkle', product: 'Twins' })).id as string
  const twin = await withReads(804, [1, 2], boardId)
  const unitId = await withReads(805, [], boardId)
  await run('log-attempt', putBack(unitId, { restored: { fromUnit: 804 } }))
  const [file] = (await unitOf(twin)).files
  expect((await unitOf(unitId)).attempts[0]?.sha256).toBe(file?.sha256)
})
