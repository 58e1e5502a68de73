import { answerFault } from './answer'
import { databaseAway, mayRetry, Refused, refusalOf, StaleWrite, statusOf } from './fault'
import { plainText } from './plain-text'

const withCode = (code: string, message = 'x') =>
  Object.assign(new Error('Failed query'), { cause: Object.assign(new Error(message), { code }) })

describe('what went wrong is told apart', () => {
  test.each(['08006', '57P01', '53300', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE'])('%s: the database is away', (code) =>
    expect(databaseAway(withCode(code))).toBe(true),
  )
  test.each(['23505', '22P02', '42601', ''])('%s: it is there, and this is another thing', (code) =>
    expect(databaseAway(withCode(code))).toBe(false),
  )
  test('a connection that could not be made in time', () =>
    expect(databaseAway(new Error('timeout exceeded when trying to connect'))).toBe(true))
  test('what two transactions did to each other may be tried again, a broken rule not', () => {
    const again = ['40P01', '40001', '23505', '23503', '23514', '22P02'].filter((code) => mayRetry(withCode(code)))
    expect(again).toEqual(['40P01', '40001', '23505'])
  })
  test('refusals become answers, bugs do not', () => {
    expect(refusalOf(new Refused('gone', 'It is gone.', 'Go back.'))).toMatchObject({
      ok: false,
      error: { code: 'gone', next: 'Go back.' },
    })
    expect(refusalOf(new StaleWrite({ version: 3 }))).toMatchObject({
      error: { code: 'stale', current: { version: 3 } },
    })
    expect(refusalOf(withCode('23505'))).toMatchObject({ error: { code: 'stale' } })
    expect(refusalOf(new TypeError('undefined is not a function'))).toBe(null)
  })
  test.each([
    ['stale', 409],
    ['no-unit', 404],
    ['gone', 410],
    ['number-taken', 422],
  ])('%s is %i', (code, status) =>
    expect(statusOf({ ok: false, error: { code, message: '', kept: '', next: '' } })).toBe(status),
  )
})

describe('how the server answers', () => {
  beforeEach(() => jest.spyOn(console, 'error').mockImplementation(() => {}))
  afterEach(() => jest.restoreAllMocks())
  test('a lost database: 503, when to come back, and nothing of its insides', async () => {
    const response = answerFault('test', withCode('ECONNREFUSED', 'connect ECONNREFUSED 127.0.0.1:54329'))
    expect([response.status, response.headers.get('retry-after')]).toEqual([503, '2'])
    expect(JSON.stringify(await response.json())).not.toContain('54329')
  })
  test('a bug: 500 with an id that stands in the log', async () => {
    const log = console.error as jest.Mock
    const response = answerFault('test', new TypeError('secret inside'))
    const { error } = (await response.json()) as { error: { message: string } }
    const id = /fault ([0-9a-f]{8})/.exec(error.message)?.[1]
    expect([response.status, log.mock.calls[0]?.[0]]).toEqual([500, expect.stringContaining(id as string)])
    expect(error.message).not.toContain('secret')
  })
})

describe('text that can be stored and shown', () => {
  test.each<[string, unknown]>([
    ['words', 'Glue pot'],
    ['pictures', '🎭 大道具 ‏מנורה'],
    ['numbers and nothing', { a: 1, b: null, c: [true] }],
  ])('%s: nothing against it', (_, input) => expect(plainText(input)).toBe(null))
  test.each<[string, unknown, string, string]>([
    ['NUL', { a: { b: ['x', 'y\u0000'] } }, 'text', '/a/b/1'],
    ['half of a character at the end', 'x\ud83d', 'text', ''],
    ['the other half alone', { s: '\ude00x' }, 'text', '/s'],
    ['in a key', { 'bad\u0000key': 1 }, 'text', '/…'],
  ])('%s is refused with its place', (_, input, code, path) => expect(plainText(input)).toMatchObject({ code, path }))
  test('sixty-five levels deep is refused, sixty are not', () => {
    const nest = (n: number): unknown => (n === 0 ? 'x' : [nest(n - 1)])
    expect([plainText(nest(60)), plainText(nest(66))?.code]).toEqual([null, 'depth'])
  })
})
