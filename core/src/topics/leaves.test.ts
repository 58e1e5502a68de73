import { leafWords, topicsOf } from './leaves'

test('channels that have the same leaf stand together, those that a hub goes by first', () => {
  expect(leafWords(['1', '2', '3', '4'], true).map((l) => l.leaf)).toEqual([
    'online',
    '1–4/state',
    '1–4/set',
    'health',
    'meter',
    'power',
    '1–4/event',
  ])
  expect(leafWords(['1'], false).map((l) => l.leaf)).toEqual(['online', '1/state', '1/set', 'health', '1/event'])
  expect(leafWords(['1', '3'], false)[1]?.leaf).toBe('1, 3/state')
  expect(leafWords(['warm', 'cool'], false)[1]?.leaf).toBe('warm, cool/state')
  expect(leafWords([], false).map((l) => l.leaf)).toEqual(['online', 'health'])
})
test('what may be retained is said as the topics have it: a command never is', () => {
  const words = new Map(leafWords(['1'], true).map((l) => [l.leaf.replace('1/', ''), l.way]))
  for (const { leaf, retain } of topicsOf('yard/lantern/lamp', ['1'], true))
    expect(words.get(leaf)).toMatch(retain ? /, retained$/ : /(never|not) retained$/)
  expect(words.get('set')).toBe('in, never retained')
})
