import { countsOf, countsSentence, gatherMarkings, markingKey } from './markings'

describe('markings met before', () => {
  const list = gatherMarkings(
    [
      { number: 7, printed: 'PW-106 A7', family: 'LX106' },
      { number: 9, printed: 'pw 106 a7', family: 'LX106' },
      { number: 11, printed: 'PW106A7', family: null },
      { number: 12, printed: '  ', family: 'LX6' },
    ],
    [{ text: 'PW 106-A7', counts: { 'ARM968-B': 1, LX106: 2 } }],
  )
  test('the same print, however it was typed', () => {
    expect(markingKey('PW-106 a7')).toBe('PW106A7')
    expect(list).toHaveLength(1)
    expect(list[0]?.units.map((u) => u.number)).toEqual([7, 9])
  })
  test('finds of units and of friends add up, in table order', () =>
    expect(countsSentence(countsOf(list[0] as (typeof list)[0]))).toBe('LX106 × 4, ARM968-B × 1'))
  test('nobody is their own evidence', () =>
    expect(countsOf(list[0] as (typeof list)[0], 7)).toEqual({ LX106: 3, 'ARM968-B': 1 }))
})
