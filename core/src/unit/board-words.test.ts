import { board } from '../testing/a-unit'
import { boardDifferences, boardWords } from './board-words'

describe('a board in words', () => {
  test('says what is known, and has no value for what nobody knows', () => {
    const words = new Map(boardWords({ ...board, ratedAmps: 10, flashBytes: null }).map((w) => [w.name, w.value]))
    expect(words.get('Rating')).toBe('10 A')
    expect(words.get('Flash')).toBeNull()
    expect(words.get('Supply')).toBe('mains')
  })
  test('what nobody judged is not called isolated', () => {
    const words = (isolation: typeof board.isolation) =>
      boardWords({ ...board, isolation }).find((w) => w.name === 'Isolated')?.value
    expect(words(null)).toBeNull()
    expect(words({ dropper: 'yes' })).toBe('No')
    expect(words({ dropper: 'unknown' })).toBe('Unknown: treated as No')
  })
})

describe('two boards side by side', () => {
  test('a board differs in nothing from itself', () => {
    expect(boardDifferences(board, board).every((d) => d.same)).toBe(true)
  })
  test('names what is different; what one of them does not know is no difference', () => {
    const other = { ...board, ratedAmps: 16, flashBytes: null, pads: null }
    const different = boardDifferences({ ...board, ratedAmps: 10, flashBytes: 1 << 20 }, other).filter((d) => !d.same)
    expect(different.map((d) => [d.name, d.a, d.b])).toEqual([['Rating', '10 A', '16 A']])
  })
})
