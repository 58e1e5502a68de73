import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { lx106Image, lx106Stock } from '../demo/binaries'
import { closeDatabase } from './db/client'
import { freshDatabase } from './db/testing'

/** The routes as a browser meets them: status, words and what comes along. */

type Json = Record<string, unknown> & { ok?: boolean; error?: Record<string, string>; value?: Record<string, unknown> }
type Route = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>
let command: Route
let filesPut: (request: Request) => Promise<Response>
let fileGet: Route
let bytesGet: Route
let pageGet: Route
let recordGet: Route
let findGet: (request: Request) => Promise<Response>
let manifestGet: (request: Request) => Promise<Response>
let health: () => Promise<Response>
let end: () => Promise<void>

const host = '127.0.0.1:4290'
const base = `http://${host}`
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = mkdtempSync(join(tmpdir(), 'fresh-coat-http-'))
  const fresh = await freshDatabase()
  end = fresh.end
  process.env.DATABASE_URL = fresh.url
  command = (await import('../app/api/commands/[name]/route')).POST as Route
  filesPut = (await import('../app/api/files/route')).PUT
  fileGet = (await import('../app/api/files/[id]/route')).GET as unknown as Route
  bytesGet = (await import('../app/api/files/[id]/bytes/route')).GET as unknown as Route
  pageGet = (await import('../app/api/units/[number]/[step]/route')).GET as unknown as Route
  recordGet = (await import('../app/api/units/[number]/[step]/record/route')).GET as unknown as Route
  findGet = (await import('../app/api/find/route')).GET
  manifestGet = (await import('../app/api/export/manifest/route')).GET
  health = (await import('../app/api/health/route')).GET
})
afterAll(async () => {
  await closeDatabase()
  await end()
})

const post = async (name: string, body: unknown, more: { query?: string; headers?: Record<string, string> } = {}) => {
  const request = new Request(`${base}/api/commands/${name}${more.query ?? ''}`, {
    method: 'POST',
    headers: { host, 'content-type': 'application/json', ...more.headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  })
  const response = await command(request, { params: Promise.resolve({ name }) })
  return { status: response.status, headers: response.headers, json: (await response.json()) as Json }
}
const put = async (query: Record<string, string>, bytes: Uint8Array) => {
  const response = await filesPut(
    new Request(`${base}/api/files?${new URLSearchParams(query)}`, {
      method: 'PUT',
      headers: { host },
      body: Buffer.from(bytes),
    }),
  )
  return { status: response.status, json: (await response.json()) as Json }
}
const get = (route: Route, params: Record<string, string>, query = '') =>
  route(new Request(`${base}/x${query}`, { headers: { host } }), { params: Promise.resolve(params) })
const create = async (number: number) =>
  (await post('create-unit', { number, name: `Unit ${number}` })).json.value?.id as string

describe('a command', () => {
  test('that worked is 200; one that is refused is 4xx with a code, a sentence and what to do', async () => {
    expect((await post('create-unit', { number: 1, name: 'First' })).status).toBe(200)
    const taken = await post('create-unit', { number: 1, name: 'Second' })
    expect(taken.status).toBe(422)
    expect(taken.json.error).toMatchObject({
      code: 'number-taken',
      message: expect.stringMatching(/First/),
      next: expect.stringMatching(/\S/),
      kept: expect.stringMatching(/\S/),
    })
  })
  test.each<[string, number, string, unknown]>([
    ['no-such-command', 404, 'no-command', {}],
    ['constructor', 404, 'no-command', {}],
    ['create-unit', 400, 'json', '{"number":'],
    ['create-unit', 422, 'input', { number: 'one', name: 'x' }],
    ['put-back', 404, 'no-unit', { unitId: '00000000-0000-4000-8000-000000000000' }],
  ])('%s: %i %s', async (name, status, code, body) => {
    const answer = await post(name, body)
    expect([answer.status, answer.json.error?.code]).toEqual([status, code])
  })
  test('of another page is refused before it is read', async () => {
    const answer = await post(
      'create-unit',
      { number: 2, name: 'x' },
      { headers: { origin: 'http://elsewhere.invalid' } },
    )
    expect([answer.status, answer.json.error?.code]).toEqual([403, 'origin'])
  })
  test('that came second gets 409 and the record that won', async () => {
    const unitId = await create(3)
    await post('save-step', { unitId, step: 'pads', version: 0, data: { note: 'first' } })
    const late = await post('save-step', { unitId, step: 'pads', version: 0, data: { note: 'second' } })
    expect([late.status, late.json.error]).toEqual([
      409,
      expect.objectContaining({ code: 'stale', current: expect.objectContaining({ version: 1 }) }),
    ])
  })
  test('brings what changed of the unit on screen, and only that', async () => {
    const unitId = await create(4)
    const { json } = await post('confirm-gate', { unitId, gate: 'mains-off' }, { query: `?for=${unitId}.wire` })
    const unit = json.unit as { view: Record<string, unknown>; records: object; log: { sentence: string }[] }
    expect(Object.keys(unit.view).sort()).toEqual(['gates', 'now', 'today'])
    expect([unit.records, unit.log[0]?.sentence]).toEqual([{}, '04 gate confirmed: mains off'])
    expect((await post('put-back', { unitId }, { query: '?for=nonsense' })).json.unit).toBeUndefined()
  })
  test('after one cell of typing little comes back', async () => {
    const unitId = await create(5)
    const { json } = await post('save-step', { unitId, step: 'pads', version: 0, data: { readings: [{ volts: 3.3 }] } })
    expect(JSON.stringify(json).length).toBeLessThan(300)
  })
  test('undoing the unit itself says that it is gone', async () => {
    const unitId = await create(6)
    const { json } = await post('undo', { unitId }, { query: `?for=${unitId}.arrive` })
    expect((json.unit as { view: unknown }).view).toBe(null)
  })
})

describe('the data of a step', () => {
  test('comes for a unit that is there', async () => {
    await create(10)
    const response = await get(pageGet, { number: '10', step: 'pads' })
    const { value } = (await response.json()) as { value: { view: { number: number }; choices: object } }
    expect([response.status, value.view.number, response.headers.get('cache-control')]).toEqual([
      200,
      10,
      'private, no-store',
    ])
  })
  test.each([
    ['999', 'pads'],
    ['ten', 'pads'],
    ['10', 'nowhere'],
    ['1e3', 'pads'],
    ['-1', 'pads'],
  ])('/%s/%s is 404, in words', async (number, step) => {
    const response = await get(pageGet, { number, step })
    expect([response.status, ((await response.json()) as Json).error?.code]).toEqual([404, 'no-unit'])
  })
  test('a record as it is stored is a file', async () => {
    const unitId = await create(11)
    await post('save-step', { unitId, step: 'start', version: 0, data: { log: 'boot text' } })
    const response = await get(recordGet, { number: '11', step: 'start' })
    expect(await response.json()).toMatchObject({ step: 'start', shape: 1, data: { log: 'boot text' } })
    expect(response.headers.get('content-disposition')).toContain('unit11_start.json')
    expect((await get(recordGet, { number: '11', step: 'wire' })).status).toBe(404)
  })
})

describe('a file', () => {
  test('goes in and comes out byte for byte, with its hash', async () => {
    const bytes = lx106Image('DOUT', 61)
    const kept = await put({ kind: 'image', name: 'plain.bin' }, bytes)
    expect(kept.status).toBe(200)
    const response = await get(fileGet, { id: kept.json.value?.id as string })
    expect(Buffer.from(await response.arrayBuffer()).equals(Buffer.from(bytes))).toBe(true)
    expect(response.headers.get('x-sha256')).toBe(kept.json.value?.sha256)
    expect(response.headers.get('content-disposition')).toBe("attachment; filename*=UTF-8''plain.bin")
  })
  test.each<[string, Record<string, string>, number, number, string]>([
    ['of no kind', { name: 'x' }, 10, 422, 'input'],
    ['empty', { kind: 'image', name: 'x' }, 0, 422, 'empty-file'],
    ['of nobody’s chip', { kind: 'dump', name: 'x' }, 10, 404, 'no-unit'],
    ['a photo that is none', { kind: 'photo', name: 'x' }, 10, 422, 'no-photo'],
    ['larger than any chip', { kind: 'image', name: 'x' }, 17 * 1048576, 413, 'too-large'],
  ])('%s is refused', async (_, query, length, status, code) => {
    const answer = await put(query, new Uint8Array(length).fill(65))
    expect([answer.status, answer.json.error?.code]).toEqual([status, code])
  })
  test('kept for a unit brings what changed of that unit', async () => {
    const unitId = await create(20)
    const kept = await put({ kind: 'dump', name: 'stock.bin', unitId, read: '1', step: 'backup' }, lx106Stock(62))
    const unit = kept.json.unit as { view: { files: { name: string }[]; reads: unknown[] } }
    expect([unit.view.files.map((f) => f.name), unit.view.reads.length]).toEqual([['stock.bin'], 1])
    const id = kept.json.value?.id as string
    const piece = (await (await get(bytesGet, { id }, '?from=0&length=64')).json()) as Json
    expect(piece.value).toMatchObject({ name: 'stock.bin', total: 1048576, offset: 0 })
    const hits = await post('search-bytes', { fileId: id, query: '0x4c' })
    expect(hits.json.value?.offsets).not.toEqual([])
    // What is covered is never found by asking for it.
    expect((await post('search-bytes', { fileId: id, query: 'limelight' })).json.value?.offsets).toEqual([])
    expect((await get(bytesGet, { id }, '?from=-1')).status).toBe(404)
    expect((await post('search-bytes', { fileId: id, query: '' })).status).toBe(422)
    const manifest = await (await manifestGet(new Request(`${base}/m?unit=20`))).text()
    expect(manifest).toMatch(/^[0-9a-f]{64} {2}unit020_stock_\d{8}\.bin\n$/)
  })
  test.each(['nonsense', '00000000-0000-4000-8000-000000000000'])('%s is not there', async (id) => {
    expect((await get(fileGet, { id })).status).toBe(404)
    expect((await get(bytesGet, { id }, '?from=0')).status).toBe(404)
  })
})

describe('find and health', () => {
  test('find answers, also to signs and NUL', async () => {
    await create(30)
    const hits = async (q: string) =>
      (
        (await (await findGet(new Request(`${base}/f?q=${encodeURIComponent(q)}`))).json()) as {
          hits: { title: string }[]
        }
      ).hits
    expect((await hits('unit 30'))[0]?.title).toBe('30 Unit 30')
    expect(await hits('%_\u0000')).toEqual([])
  })
  test('health is 200 while the database answers', async () => expect((await health()).status).toBe(200))
})
