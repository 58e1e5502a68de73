import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { noise } from '@fresh-coat/core/image/build'
import { lx106Stock } from '../demo/binaries'
import { runCommand } from './commands'
import { closeDatabase, database } from './db/client'
import { codeOf, freshDatabase, runner } from './db/testing'
import { keepFile } from './files/keep'

/** Routes that only read, as a browser meets them, and commands that two tabs send at once. */

type Params = Record<string, string>
type Route = (request: Request, context: { params: Promise<Params> }) => Promise<Response>
let end: () => Promise<void>
const routes: Record<string, Route> = {}
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-routes-'))
  const fresh = await freshDatabase()
  end = fresh.end
  process.env.DATABASE_URL = fresh.url
  routes.lots = (await import('../app/api/lots/route')).GET as unknown as Route
  routes.words = (await import('../app/api/words/[id]/route')).GET as unknown as Route
  routes.set = (await import('../app/api/units/[number]/set/route')).GET as unknown as Route
  routes.named = (await import('../app/api/units/[number]/named-pins/route')).GET as unknown as Route
})
afterAll(async () => {
  await closeDatabase()
  await end()
})
const run = runner(() => database())
const get = (name: string, query: string, params: Params = {}) =>
  (routes[name] as Route)(new Request(`http://127.0.0.1:4290/api?${query}`), { params: Promise.resolve(params) })
let number = 500
const arrive = async () => (await run('create-unit', { number: ++number, name: `Unit ${number}` })).id as string
const keep = async (name: string, bytes: Uint8Array, unitId: string | null = null) => {
  const upload = { kind: unitId ? 'dump' : 'image', name, unitId, read: unitId ? 1 : null, tag: null } as const
  const kept = await keepFile(database(), upload as Parameters<typeof keepFile>[1], bytes)
  if (!kept.ok) throw new Error(kept.error.message)
  return { fileId: kept.value.id as string, sha256: kept.value.sha256 as string, bytes: bytes.length, name }
}

test('a lot that nobody has, numbers that are none and signs of any kind are answered, not thrown', async () => {
  for (const query of ['', 'lot=x&but=-3', 'lot=%00&but=1e99', "lot=';drop&seller=%25"])
    expect(await (await get('lots', query)).json()).toEqual({ ok: true, value: [] })
})

test('a tool’s words come back byte for byte as text, and an id that is none is not found', async () => {
  const unitId = await arrive()
  const text = 'MAC b8:3c:d0:77:1e:9a\r\n<script>alert(1)</script>\n'
  const { id } = await run('keep-words', { unitId, step: 'wire', text })
  const answer = await get('words', '', { id: id as string })
  expect([
    await answer.text(),
    answer.headers.get('content-type'),
    answer.headers.get('x-content-type-options'),
  ]).toEqual([text, 'text/plain; charset=utf-8', 'nosniff'])
  for (const none of ['x', '00000000-0000-4000-8000-000000000000'])
    expect((await get('words', '', { id: none })).status).toBe(404)
})

test('pins are named from the kept read, without what stands beside them; without a read it is said', async () => {
  const unitId = await arrive()
  const at = { number: String(number) }
  expect((await get('named', '', at)).status).toBe(404)
  await keep('stock.bin', lx106Stock(7), unitId)
  const answer = await (await get('named', '', at)).text()
  expect(answer).toContain('relay1_gpio')
  expect(answer).not.toContain('limelight')
})

test('a set is judged without a trace; what is no set is refused in words', async () => {
  await arrive()
  const at = { number: String(number) }
  const [a, b] = [await keep('a.bin', noise(4096, 1)), await keep('b.bin', noise(4096, 2))]
  const judged = await get('set', `part=${a.fileId}@0&part=${b.fileId}@4096`, at)
  expect(await judged.json()).toMatchObject({ ok: true, value: { merged: { bytes: 8192 } } })
  for (const [query, status] of [
    ['', 400],
    [`part=${a.fileId}@0`, 400],
    [`part=${a.fileId}@0&part=${b.fileId}@-1`, 400],
    [`part=${a.fileId}@0&part=${b.fileId}@many`, 400],
    [`part=${a.fileId}@0&part=00000000-0000-4000-8000-000000000000@4096`, 409],
  ] as const)
    expect([query, (await get('set', query, at)).status]).toEqual([query, status])
  expect((await get('set', `part=${a.fileId}@0&part=${b.fileId}@4096`, { number: '9999' })).status).toBe(404)
})

test('the same words kept twice at once: both are kept, and the record has the fact once', async () => {
  const unitId = await arrive()
  const take = [{ kind: 'mac', value: 'b8:3c:d0:77:1e:9a' }]
  const keepIt = () =>
    runCommand(database(), 'keep-words', { unitId, step: 'wire', text: 'MAC b8:3c:d0:77:1e:9a', take })
  expect((await Promise.all([keepIt(), keepIt(), keepIt()])).map(codeOf)).toEqual(['ok', 'ok', 'ok'])
  const { loadUnit } = await import('./units/load')
  const view = await loadUnit(database(), unitId, new Date())
  expect([view?.words.length, view?.records.join.data.mac]).toEqual([3, 'b8:3c:d0:77:1e:9a'])
})
