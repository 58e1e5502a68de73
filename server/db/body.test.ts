import { jsonBody, largestCommand } from './body'
import { databaseAway, refusalOf, storageFault } from './fault'
import { plainText } from './plain-text'

const post = (body: BodyInit | null, headers: Record<string, string> = {}) =>
  new Request('http://127.0.0.1/api', { method: 'POST', body, headers, ...({ duplex: 'half' } as object) })
const streamed = (pieces: number, size: number) =>
  new ReadableStream<Uint8Array>({
    start(controller) {
      for (let i = 0; i < pieces; i++) controller.enqueue(new Uint8Array(size).fill(0x20))
      controller.close()
    },
  })

describe('the body of a command', () => {
  test('is JSON up to its bound', async () => {
    expect(await jsonBody(post('{"a":[1,"ä"]}'))).toEqual({ state: 'read', value: { a: [1, 'ä'] } })
    const full = JSON.stringify('x'.repeat(largestCommand - 2))
    expect((await jsonBody(post(full))).state).toBe('read')
    expect((await jsonBody(post(`${full} `))).state).toBe('too-long')
  })
  test('that is longer than it said, or says nothing, is stopped on the way', async () =>
    expect((await jsonBody(post(streamed(400, 1024)))).state).toBe('too-long'))
  test.each(['', '{', 'nothing', '{"a":1}{'])('%j cannot be read', async (text) =>
    expect((await jsonBody(post(text))).state).toBe('unreadable'),
  )
  test('of bytes that are no text cannot be read', async () =>
    expect((await jsonBody(post(Uint8Array.from([0x22, 0xff, 0x22])))).state).toBe('unreadable'))
})

describe('what nobody types', () => {
  const nested = (levels: number): unknown => (levels === 0 ? 1 : [nested(levels - 1)])
  test.each<[string, unknown, string | null]>([
    ['sixty levels', nested(60), null],
    ['seventy levels', nested(70), 'depth'],
    ['ten thousand entries', Array(10_000).fill(0), null],
    ['thirty thousand entries', Array(30_000).fill(0), 'entries'],
    [
      'thirty thousand in three lists',
      [Array(10_000).fill(0), Array(10_000).fill(0), Array(10_000).fill(0)],
      'entries',
    ],
    ['a NUL', { a: 'x\0' }, 'text'],
    ['half a character in a key', { '\ud800': 1 }, 'text'],
  ])('%s', (_, input, code) => expect(plainText(input)?.code ?? null).toBe(code))
})

describe('a fault is called what it is', () => {
  const thrown = (code: string) => Object.assign(new Error('x'), { code })
  test.each([
    ['53100', 'disk-full'],
    ['ENOSPC', 'disk-full'],
    ['25006', 'read-only'],
    ['EROFS', 'read-only'],
    ['42601', undefined],
  ])('%s: %s, and not a database that is away', (code, what) => {
    expect(storageFault(thrown(code))?.code).toBe(what)
    expect(databaseAway(thrown(code))).toBe(false)
  })
  test.each(['08006', '57P01', '53300', 'ECONNREFUSED'])('%s is a database that is away', (code) =>
    expect([databaseAway(thrown(code)), storageFault(thrown(code))]).toEqual([true, null]),
  )
  test('a board that is not there is gone, not a fault of ours', () =>
    expect(refusalOf(thrown('23503'))).toMatchObject({ ok: false, error: { code: 'gone' } }))
})
