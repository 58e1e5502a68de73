import { inState } from '@fresh-coat/core/link/journal'
import { aJournal as journal } from '@fresh-coat/core/testing/a-journal'
import { GET, PUT } from '../../app/api/units/[number]/journal/route'
import { lx106Image } from '../../demo/binaries'
import { closeDatabase, database } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { keepFile } from '../files/keep'

let end: () => Promise<void>
beforeAll(async () => {
  const fresh = await freshDatabase()
  end = fresh.end
  process.env.DATABASE_URL = fresh.url
})
afterAll(async () => {
  await closeDatabase()
  await end()
})
const run = runner(() => database())
let number = 700
const ids = new Map<number, string>()
const arrive = async (): Promise<number> => {
  const { id } = await run('create-unit', { number: ++number, name: `Unit ${number}` })
  ids.set(number, id as string)
  return number
}
const where = (n: number) => ({ params: Promise.resolve({ number: String(n) }) })
const url = 'http://127.0.0.1:4290/api/journal'
const kept = async (n: number) => (await (await GET(new Request(url), where(n))).json()).value
const put = (n: number, body: unknown, headers: Record<string, string> = {}) =>
  PUT(new Request(url, { method: 'PUT', body: JSON.stringify(body), headers }), where(n))
test('what one browser kept another one finds, whole', async () => {
  const n = await arrive()
  expect(await kept(n)).toBeNull()
  const begun = journal('2026-11-24T10:00:00.000Z')
  expect((await put(n, begun)).status).toBe(200)
  expect(await kept(n)).toEqual(begun)
})

test('what comes late takes nothing back: the newer one stays, in whatever order they arrive', async () => {
  const n = await arrive()
  const begun = journal('2026-11-24T10:00:00.000Z')
  const later = inState(begun, 'lost-midway', '2026-11-24T10:03:00.000Z')
  await Promise.all([put(n, later), put(n, begun)])
  await put(n, begun)
  expect(await kept(n)).toEqual(later)
})

test('the write that is done takes it away, whatever tool did it; a lost one or a read does not', async () => {
  const n = await arrive()
  const unitId = ids.get(n) as string
  const begun = journal('2026-11-24T10:00:00.000Z')
  await put(n, begun)
  const image = { kind: 'image', name: 'plainsong.bin', unitId: null, read: null, tag: null } as const
  const file = await keepFile(database(), image, lx106Image('DOUT', 71))
  if (!file.ok) throw new Error(file.error.message)
  await run('save-step', { unitId, step: 'check', version: 0, data: { fileId: file.value.id, offset: 0 } })
  const log = async (more: object) => {
    await run('confirm-gate', { unitId, gate: 'mains-off' })
    await run('confirm-gate', { unitId, gate: 'discharged', measured: '0.4', early: true })
    await run('log-attempt', { unitId, outcome: 'done', minutes: 4, verify: 'none', verified: false, ...more })
  }
  await log({ outcome: 'lost-midway' })
  await log({ action: 'read', baud: 115_200 })
  expect(await kept(n)).toEqual(begun)
  await log({})
  expect(await kept(n)).toBeNull()
})

test('no journal, no unit, another page, too much of it: refused in words, and nothing is kept', async () => {
  const n = await arrive()
  const begun = journal('2026-11-24T10:00:00.000Z')
  expect((await put(n, { ...begun, regions: [] })).status).toBe(422)
  expect((await put(n, 'x'.repeat(300_000))).status).toBe(422)
  expect((await put(99_999, begun)).status).toBe(404)
  expect((await put(n, begun, { origin: 'http://elsewhere.example', host: '127.0.0.1:4290' })).status).toBe(403)
  expect(await kept(n)).toBeNull()
  expect(await kept(99_999)).toBeNull()
})
