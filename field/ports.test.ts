import type { Server } from 'node:net'
import { createServer } from 'node:net'
import { LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { newLine } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { DELETE, GET as listen, POST as tell } from '@/app/api/field/[id]/route'
import { GET as list, POST as open } from '@/app/api/field/route'
import { FieldLink } from '@/components/link/field-link'
import { ChipSpec } from '@/standins/chip/chip-spec'
import { serveChip } from '@/standins/chip/served'
import { openSession, portsHere, sessionOf } from './ports'

const servers: Server[] = []
afterAll(() => {
  for (const s of servers) s.close()
})
async function chip(more: object = {}): Promise<number> {
  const spec = { family: 'RV32', flashBytes: 2 ** 22, flashId: '204016', mac: '02:4c:59:10:20:31', ...more }
  const { port, server } = await serveChip(ChipSpec.parse(spec), 115_200)
  servers.push(server)
  return port
}
const where = 'http://127.0.0.1:4491/api/field'
const json = (body: unknown, headers: Record<string, string> = {}) =>
  new Request(where, {
    method: 'POST',
    headers: { host: '127.0.0.1:4491', 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body),
  })
const at = (id: string) => ({ params: Promise.resolve({ id }) })

/** The page's own calls, led to the routes without a server between them. */
function asServer(): void {
  globalThis.fetch = (async (input: string, init: RequestInit = {}) => {
    const request = new Request(new URL(input, where), init)
    const [, id] = /field\/(.+)$/.exec(String(input)) ?? []
    if (!id) return open(request)
    if (request.method === 'DELETE') return DELETE(request, at(id))
    return request.method === 'POST' ? tell(request, at(id)) : listen(request, at(id))
  }) as typeof fetch
}

test('a chip behind a bridge says the same over the app’s server as everywhere', async () => {
  asServer()
  const link = await FieldLink.open({ kind: 'bridge', host: '127.0.0.1', port: await chip() }, 115_200)
  expect(link.can).toEqual({ lines: false, rate: false })
  const who = await drive(identify(newLine(115_200, 400), 20), link)
  expect(who).toMatchObject({ family: 'RV32', mac: '02:4c:59:10:20:31', flashBytes: 2 ** 22, findings: [] })
  await link.close()
})

test('a bridge that goes away ends the line, and is said', async () => {
  asServer()
  const port = await chip({ faults: [{ fault: 'unplug', after: 120 }] })
  const link = await FieldLink.open({ kind: 'bridge', host: '127.0.0.1', port }, 115_200)
  await expect(drive(identify(newLine(115_200, 400), 3), link)).rejects.toThrow()
  await link.close()
})

test('a page that stops listening closes its port: nobody else finds it taken', async () => {
  const answer = await open(json({ kind: 'bridge', host: '127.0.0.1', port: await chip() }))
  const { id } = ((await answer.json()) as { value: { id: string } }).value
  const heard = await listen(new Request(where), at(id))
  await heard.body?.cancel()
  expect(sessionOf(id)).toBeNull()
  expect((await tell(json({ rate: 9600 }), at(id))).status).toBe(404)
})

test('a port that its page never listened to is closed again', async () => {
  const { id } = await openSession({ kind: 'bridge', host: '127.0.0.1', port: await chip() }, 30)
  expect(sessionOf(id)).not.toBeNull()
  await new Promise((done) => setTimeout(done, 80))
  expect(sessionOf(id)).toBeNull()
})

test('a server that goes away is a lost line', async () => {
  asServer()
  const link = await FieldLink.open({ kind: 'bridge', host: '127.0.0.1', port: await chip() }, 115_200)
  globalThis.fetch = (() => Promise.reject(new TypeError('fetch failed'))) as typeof fetch
  await expect(link.write(Uint8Array.of(1))).rejects.toThrow(LineLost)
  asServer()
  await link.close()
})

test('what came before anybody listened is told first, in its order', async () => {
  const server = createServer((socket) => {
    socket.write('one ')
    setTimeout(() => socket.write('two'), 20)
  })
  servers.push(server)
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : 0
  const answer = await open(json({ kind: 'bridge', host: '127.0.0.1', port }))
  const { id } = ((await answer.json()) as { value: { id: string } }).value
  await new Promise((done) => setTimeout(done, 60))
  const reader = (await listen(new Request(where), at(id))).body?.getReader()
  // In one piece or in several, as the line has it.
  let text = ''
  while (reader && text.length < 'one two'.length) {
    const { value, done } = await reader.read()
    if (done) break
    text += new TextDecoder().decode(value)
  }
  expect(text).toBe('one two')
  await reader?.cancel()
})

describe('refused, in words', () => {
  const status = async (answer: Promise<Response>) => {
    const got = await answer
    return [got.status, ((await got.json()) as { error: { code: string } }).error.code]
  }
  test('a page from elsewhere', async () => {
    const headers = { origin: 'http://elsewhere.example' }
    expect(await status(open(json({ kind: 'bridge', host: '127.0.0.1', port: 1 }, headers)))).toEqual([403, 'origin'])
  })
  test.each([
    ['nothing', null],
    ['no port', { kind: 'bridge', host: 'here' }],
    ['a port beyond all', { kind: 'bridge', host: 'here', port: 70_000 }],
    ['another kind', { kind: 'scan', host: '10.0.0.0/24' }],
  ])('a wish that is none: %s', async (_, wish) => expect(await status(open(json(wish)))).toEqual([422, 'input']))
  test('a bridge that nobody listens at', async () => {
    const port = await chip()
    for (const s of servers.splice(0)) await new Promise((done) => s.close(done))
    expect(await status(open(json({ kind: 'bridge', host: '127.0.0.1', port })))).toEqual([409, 'port'])
  })
  test('a file of the machine that is no adapter is never opened', async () =>
    expect(await status(open(json({ kind: 'adapter', path: '/etc/hosts', rate: 115_200 })))).toEqual([404, 'gone']))
})

test('the adapters of the machine are listed by what they say they are', async () => {
  const answer = (await (await list()).json()) as { ok: boolean; value: { path: string; about: string }[] }
  expect(answer.ok).toBe(true)
  for (const a of answer.value) expect(typeof a.path).toBe('string')
})

test('a machine without the program that knows what hangs at a port lists its ports by name; any other failure is said', async () => {
  const none = () => Promise.reject(Object.assign(new Error('spawn ENOENT'), { code: 'ENOENT' }))
  const dev = async () => ['null', 'ttyUSB0', 'tty1', 'ttyS2', 'sda', 'ttyACM10']
  expect(await portsHere(none, dev)).toEqual([
    { path: '/dev/ttyUSB0' },
    { path: '/dev/ttyS2' },
    { path: '/dev/ttyACM10' },
  ])
  const refused = () => Promise.reject(Object.assign(new Error('not allowed'), { code: 'EACCES' }))
  await expect(portsHere(refused, dev)).rejects.toThrow('not allowed')
})
