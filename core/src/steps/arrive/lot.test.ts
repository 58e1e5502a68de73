import { lotFindings, lotKey, lotWords } from './lot'

const c = { boardId: 'c', name: 'Pellworth P1 rev C', units: 1 }
const d = { boardId: 'd', name: 'Pellworth P1 rev D', units: 3 }

test('a lot says what its units turned out to be, and nothing while nobody knows', () => {
  expect(lotWords([c, d])).toBe('3 of 4 other units from this lot are Pellworth P1 rev D.')
  expect(lotWords([d])).toBe('All 3 other units from this lot are Pellworth P1 rev D.')
  expect(lotWords([c])).toBe('The other unit from this lot is Pellworth P1 rev C.')
  expect(lotWords([])).toBe('')
})

test('another board than the lot’s is said; the lot’s own, none, and a tie are not', () => {
  expect(lotFindings('c', [c, d]).map((f) => f.code)).toEqual(['lot-differs'])
  expect(lotFindings('x', [d])).toHaveLength(1)
  expect(lotFindings('d', [c, d])).toEqual([])
  expect(lotFindings(null, [d])).toEqual([])
  expect(lotFindings('c', [])).toEqual([])
  expect(lotFindings('c', [{ ...c, units: 3 }, d])).toEqual([])
})

test('a lot is the same however it was typed', () => expect(lotKey('  Box 17B ')).toBe(lotKey('box 17b')))
