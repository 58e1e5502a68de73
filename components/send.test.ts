/** @jest-environment jsdom */
import { ask, refusalOf } from './send'

const answer = (body: unknown) => {
  global.fetch = jest.fn(async () => ({ json: async () => body })) as never
}

describe('what the server is asked for', () => {
  test('comes as its value; an empty text or list is one', async () => {
    for (const value of ['', [], 0, { there: false }]) {
      answer({ ok: true, value })
      expect(await ask('/api/live/heard')).toEqual(value)
    }
  })
  test('a refusal is thrown in its own words', async () => {
    answer({ ok: false, error: { message: 'There is no such unit.' } })
    await expect(ask('/api/live/99')).rejects.toThrow('There is no such unit.')
  })
  test.each<[string, () => Promise<unknown>]>([
    ['a server that is away', async () => Promise.reject(new TypeError('Failed to fetch'))],
    ['an answer that was cut in half', async () => ({ json: async () => JSON.parse('{"ok":tr') })],
    ['an answer of somebody else', async () => ({ json: async () => ({}) })],
  ])('%s is said in words, never in those of the browser', async (_, fetched) => {
    global.fetch = jest.fn(fetched) as never
    await expect(ask('/api/live/7')).rejects.toThrow('The server does not answer.')
  })
})

test('what came of a command: nothing to say, its refusal, or that nobody answered', () => {
  const error = { code: 'range', message: 'Too much.', kept: '', next: '' }
  expect(refusalOf({ state: 'ok', value: {} })).toBeNull()
  expect(refusalOf({ state: 'refused', error })).toBe(error)
  expect(refusalOf({ state: 'away' })).toMatchObject({ code: 'away', kept: 'Nothing was changed.' })
})
