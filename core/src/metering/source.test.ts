import { settleCount, settles } from './source'

const walk = (from: number, share: number) =>
  Array.from({ length: 12 }, (_, i) => from * (1 + share * Math.exp(-i / 3)))

describe('a reading stands still', () => {
  test('when the last five agree, not before there are five', () => {
    expect(settles([100, 100, 100, 100], 0.1)).toBe(false)
    expect(settles([80, 100, 100.1, 100, 100.1, 100], 0.1)).toBe(true)
    expect(settleCount).toBe(5)
  })
  test('not while a heater walks down as it warms, and then it does', () => {
    expect(settles(walk(1000, 0.06).slice(0, 6), 0.1)).toBe(false)
    expect(settles(walk(1000, 0.06).concat(Array(5).fill(1000.2)), 0.1)).toBe(true)
  })
  test('a display of coarse steps may jump by two of them', () => {
    expect(settles([3, 4, 3, 4, 3], 1)).toBe(true)
    expect(settles([3, 6, 3, 6, 3], 1)).toBe(false)
  })
})
