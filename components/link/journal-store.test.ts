import { inState, type Journal } from '@fresh-coat/core/link/journal'
import { aJournal } from '@fresh-coat/core/testing/a-journal'
import { del, get, set } from 'idb-keyval'
import { journalKeeper, openJournal } from './journal-store'

jest.mock('idb-keyval', () => ({ createStore: () => ({}), del: jest.fn(), get: jest.fn(), set: jest.fn() }))

const of = { id: 'u1', number: 7 }
const begun = aJournal('2026-11-24T10:00:00.000Z')
const later = (second: number) => inState(begun, 'writing', `2026-11-24T10:00:0${second}.000Z`)

/** The server as the page meets it: what it was sent, and what it holds. */
function server(up = true) {
  const sent: [string, string][] = []
  let held: Journal | null = null
  globalThis.fetch = (async (url: string, init?: RequestInit) => {
    const method = init?.method ?? 'GET'
    if (!up) throw new TypeError('away')
    if (method === 'PUT') held = JSON.parse(String(init?.body)) as Journal
    sent.push([method, method === 'PUT' ? ((held as Journal | null)?.updatedAt ?? '') : String(url)])
    return { ok: true, status: 200, json: async () => ({ ok: true, value: held }) }
  }) as unknown as typeof fetch
  return { sent, holds: (journal: Journal | null) => (held = journal) }
}
const browser = (kept: Journal | null, full = false) => {
  jest.mocked(get).mockResolvedValue(kept)
  jest.mocked(del).mockResolvedValue(undefined)
  jest.mocked(set).mockImplementation(async () => {
    if (full) throw new Error('no room')
  })
}

test('it is kept in both places; when the write is over this browser forgets it, and nothing is on its way any more', async () => {
  const { sent } = server()
  browser(null)
  const keep = journalKeeper(of)
  await keep(begun)
  await keep(null)
  expect(jest.mocked(set)).toHaveBeenCalledWith('u1', begun, expect.anything())
  expect(jest.mocked(del)).toHaveBeenCalled()
  expect(sent).toEqual([['PUT', begun.updatedAt]])
})

test('one of the two is enough to begin; with neither nothing may be erased', async () => {
  server(false)
  browser(null)
  await journalKeeper(of)(begun)
  server()
  browser(null, true)
  await journalKeeper(of)(begun)
  server(false)
  await expect(journalKeeper(of)(begun)).rejects.toThrow(/neither this browser nor the server/)
})

test('while one is on its way only the newest follows: the server ends where the write did', async () => {
  const { sent } = server()
  browser(null)
  const keep = journalKeeper(of)
  await Promise.all([1, 2, 3, 4].map((s) => keep(later(s))))
  await new Promise((over) => setTimeout(over, 10))
  expect(sent.at(-1)).toEqual(['PUT', later(4).updatedAt])
})

test('the newer copy counts, and a store that cannot be read is none', async () => {
  const there = server()
  browser(later(1))
  there.holds(later(3))
  expect((await openJournal(of))?.updatedAt).toBe(later(3).updatedAt)
  there.holds(null)
  expect((await openJournal(of))?.updatedAt).toBe(later(1).updatedAt)
  server(false)
  jest.mocked(get).mockRejectedValue(new Error('closed'))
  expect(await openJournal(of)).toBeNull()
  // One that keeps nothing at all throws before it promises anything.
  for (const act of [get, set, del])
    jest.mocked(act as jest.Mock).mockImplementation(() => {
      throw new ReferenceError('indexedDB is not defined')
    })
  expect(await openJournal(of)).toBeNull()
  server()
  await journalKeeper(of)(begun)
})
