/** @jest-environment jsdom */
const kept = new Map<string, unknown>()
jest.mock('idb-keyval', () => ({
  createStore: () => ({}),
  set: async (k: string, v: unknown) => void kept.set(k, v),
  get: async (k: string) => kept.get(k),
  del: async (k: string) => void kept.delete(k),
  keys: async () => [...kept.keys()],
}))

type Store = typeof import('./draft-store')
/** A tab of its own on the same browser: its name, its memory, its locks. */
function tab(id: string, locks: unknown): Store {
  sessionStorage.setItem('fresh-coat:tab', id)
  Object.defineProperty(navigator, 'locks', { configurable: true, value: locks })
  let store: Store | undefined
  jest.isolateModules(() => {
    store = require('./draft-store') as Store
  })
  return store as Store
}
const held: string[] = []
const locks = {
  request: (lock: string, { signal }: { signal: AbortSignal }, run: () => Promise<void>) => {
    if (!held.includes(lock)) {
      held.push(lock)
      return run()
    }
    // Somebody holds it: whoever waits goes when it is given back, or no more when the wait is over.
    return new Promise<void>((done, gone) => {
      const look = setInterval(() => {
        if (held.includes(lock)) return
        clearInterval(look)
        held.push(lock)
        done(run())
      }, 20)
      signal.addEventListener('abort', () => {
        clearInterval(look)
        gone(signal.reason)
      })
    })
  },
  query: async () => ({ held: held.map((name) => ({ name })) }),
}
const draft = (text: string) => ({ base: {}, mine: { text }, version: 1 })
beforeEach(() => {
  kept.clear()
  held.length = 0
  sessionStorage.clear()
})

test('the draft of a tab that lives stays with it', async () => {
  const left = tab('left', locks)
  expect(await left.takeDrafts('u:join')).toEqual([])
  await left.keepDraft('u:join', draft('from the left'))
  const right = tab('right', locks)
  expect(await right.takeDrafts('u:join')).toEqual([])
  expect([...kept.keys()]).toEqual(['u:join|left'])
})
test('what a tab left behind that lives no more is taken over, once, and its own after a reload', async () => {
  await tab('left', locks).keepDraft('u:join', draft('left behind'))
  const right = tab('right', locks)
  await right.keepDraft('u:join', draft('own'))
  await right.keepDraft('u:pads', draft('of another step'))
  // Both pages are closed.
  held.length = 0
  expect(await tab('right', locks).takeDrafts('u:join')).toEqual([draft('left behind'), draft('own')])
  expect([...kept.keys()].sort()).toEqual(['u:join|right', 'u:pads|right'])
})
test('a copy of a tab has a name of its own: the draft of the first stays with it, and neither writes over the other’s', async () => {
  const first = tab('left', locks)
  await first.keepDraft('u:join', draft('from the first'))
  const copy = tab('left', locks)
  expect(await copy.takeDrafts('u:join')).toEqual([])
  await copy.keepDraft('u:join', draft('from the copy'))
  expect(kept.get('u:join|left')).toEqual(draft('from the first'))
  expect(kept.size).toBe(2)
  // It keeps that name over a reload.
  expect(sessionStorage.getItem('fresh-coat:tab')).not.toBe('left')
})
test('a tab that is reloaded waits for its name, and finds its own draft', async () => {
  await tab('left', locks).keepDraft('u:join', draft('own'))
  const again = tab('left', locks).takeDrafts('u:join')
  setTimeout(() => held.splice(0), 100)
  expect(await again).toEqual([draft('own')])
  expect([...kept.keys()]).toEqual(['u:join|left'])
})
test.each([
  ['that has no locks, over plain http', undefined],
  [
    'whose locks fail',
    { request: () => Promise.reject(new Error('no')), query: () => Promise.reject(new Error('no')) },
  ],
])('in a browser %s, nothing is lost: every draft counts as left behind', async (_, none) => {
  const left = tab('left', none)
  await left.takeDrafts('u:join')
  await left.keepDraft('u:join', draft('from the left'))
  expect(await tab('right', none).takeDrafts('u:join')).toEqual([draft('from the left')])
})
