import fc from 'fast-check'
import { fieldInWords, valueInWords } from './in-words'

describe('records in words', () => {
  test('fields are called as the page calls them', () => {
    expect(fieldInWords('loadWatts')).toBe('what it will carry')
    expect(fieldInWords('strapFree')).toBe('the strap free')
    // Names that every object has are fields like any other.
    expect(fieldInWords('constructor')).toBe('the constructor')
    expect(valueInWords(JSON.parse('{"__proto__":1,"toString":2}'))).toBe('__proto__ 1, to string 2')
  })
  test('values are said, not dumped', () => {
    expect(valueInWords(null)).toBe('nothing')
    expect(valueInWords([])).toBe('nothing')
    expect(valueInWords(true)).toBe('yes')
    expect(valueInWords([{ place: 'brown', legend: 'line' }])).toBe('place brown, legend line')
  })
  test('whatever it is: short, and never empty', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const words = valueInWords(value)
        expect(words.length).toBeGreaterThan(0)
        expect(words.length).toBeLessThanOrEqual(120)
      }),
    )
  })
})
