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
  request: async (name: string, run: () => Promise<void>) => {
    held.push(name)
    await run()
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
  expect(await tab('right', locks).takeDrafts('u:join')).toEqual([draft('left behind'), draft('own')])
  expect([...kept.keys()].sort()).toEqual(['u:join|right', 'u:pads|right'])
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
