import { closeDatabase, database } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { boardFact } from './schema'

let end: () => Promise<void>
let GET: (request: Request) => Promise<Response>
beforeAll(async () => {
  const fresh = await freshDatabase()
  end = fresh.end
  process.env.DATABASE_URL = fresh.url
  GET = (await import('../../app/api/boards/templates/route')).GET
})
afterAll(async () => {
  await closeDatabase()
  await end()
})
const run = runner(() => database())
const ask = (family: string) => GET(new Request(`http://127.0.0.1:4290/api/boards/templates?family=${family}`))

test('boards of the family that have pins are told with the newest of them, others are not', async () => {
  expect(await (await ask('LX106')).json()).toEqual({ ok: true, value: [] })
  const boardId = (await run('create-board', { maker: 'Harkle', product: 'S1', revision: 'A' })).id as string
  await run('create-board', { maker: 'Harkle', product: 'S2', revision: 'A' })
  const template = (pin: string) => ({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'Harkle S1',
    family: 'LX106',
    pins: [{ pin, fn: 'relay', ch: 1 }],
  })
  const learned = (pin: string, at: string) => ({ boardId, key: 'template', value: template(pin), at: new Date(at) })
  await database()
    .insert(boardFact)
    .values([learned('GPIO12', '2026-11-24T10:00:00Z'), learned('GPIO4', '2026-11-23T10:00:00Z')])
  const { value } = await (await ask('LX106')).json()
  expect(value).toEqual([{ id: boardId, name: 'Harkle S1 A', template: expect.objectContaining({ family: 'LX106' }) }])
  expect(value[0].template.pins).toEqual([{ pin: 'GPIO12', fn: 'relay', ch: 1 }])
  expect((await (await ask('LX6')).json()).value).toEqual([])
})

test('a family that is none is refused in words', async () => {
  for (const none of ['', 'x', "LX106' or 1=1"]) expect((await ask(encodeURIComponent(none))).status).toBe(422)
})
