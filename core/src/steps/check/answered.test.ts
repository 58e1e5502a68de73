import { answeredWords, answerTo, isAnswered } from './answered'

const first = { code: 'data-behind', message: 'Data lie at 0xC0000.' }
const second = { code: 'data-behind', message: 'Data lie at 0xE0000.' }

describe('a warning that was answered', () => {
  test('is answered for what it said; of its kind there may be others', () => {
    const answered = [answerTo(first)]
    expect(isAnswered(answered, first)).toBe(true)
    expect(isAnswered(answered, second)).toBe(false)
    expect(isAnswered([], first)).toBe(false)
  })
  test('in a record of an older version counts for all of its kind, as it did', () => {
    expect(isAnswered(['data-behind'], first)).toBe(true)
    expect(isAnswered(['data-behind'], second)).toBe(true)
    expect(isAnswered(['data'], first)).toBe(false)
  })
  test('is told as it stands, or as it was said when it is found no more', () => {
    expect(answeredWords(answerTo(first), [second, first])).toEqual({ words: first.message, found: true })
    expect(answeredWords(answerTo(first), [second])).toEqual({ words: first.message, found: false })
    expect(answeredWords('data-behind', [second])).toEqual({ words: second.message, found: true })
  })
})
