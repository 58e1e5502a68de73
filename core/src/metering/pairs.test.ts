import fc from 'fast-check'
import { readPairs } from './pairs'

const read = (text: string) => readPairs(text).pairs.map((p) => [p.indicated, p.reference])

describe('pasted pairs', () => {
  test.each([
    ['58.1 60.2', 58.1, 60.2],
    ['58.1\t60.2', 58.1, 60.2],
    ['58.1;60.2', 58.1, 60.2],
    ['58.1, 60.2', 58.1, 60.2],
    ['58.1,60.2', 58.1, 60.2],
    ['58,1 60,2', 58.1, 60.2],
    ['58,1;60,2', 58.1, 60.2],
    ['58,1\t60,2', 58.1, 60.2],
    ['58,1, 60,2', 58.1, 60.2],
    ['58.1 W / 60.2 W', 58.1, 60.2],
    ['58.1W 60.2W', 58.1, 60.2],
    ['58.1 -> 60.2', 58.1, 60.2],
    ['heater: 961.8 1001.2', 961.8, 1001.2],
    ['1 844.6 | 1 921.0'.replaceAll('1 ', '1\u2009'), 1844.6, 1921],
    ['1.844,6; 1.921,0', 1844.6, 1921],
    ['0 0', 0, 0],
    ['480, 500', 480, 500],
  ])('%j', (text, indicated, reference) => expect(read(text)).toEqual([[indicated, reference]]))

  test('a line that is none is named, and the others are taken', () =>
    expect(readPairs('58.1 60.2\n\nindicated reference\n-4 5\n1 2 3\n481 500.9')).toEqual({
      pairs: [
        { indicated: 58.1, reference: 60.2, text: '58.1 60.2' },
        { indicated: 481, reference: 500.9, text: '481 500.9' },
      ],
      unread: [
        { line: 3, text: 'indicated reference' },
        { line: 4, text: '-4 5' },
        { line: 5, text: '1 2 3' },
      ],
    }))
  test('whatever two readings are written with, they come back', () => {
    const reading = fc.integer({ min: 0, max: 99_999 }).map((n) => n / 10)
    const separator = fc.constantFrom(' ', '\t', ';', '; ', ' | ', ' / ')
    fc.assert(
      fc.property(reading, reading, separator, fc.boolean(), (a, b, by, commas) => {
        const written = [a, b].map((n) => (commas ? n.toFixed(1).replace('.', ',') : n.toFixed(1)))
        expect(read(written.join(by))).toEqual([[a, b]])
      }),
    )
  })
  test('every line is either taken or named', () =>
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 20 })), (lines) => {
        const text = lines.join('\n')
        const full = text.split(/\r\n|\n|\r/).filter((l) => l.trim() !== '').length
        const { pairs, unread } = readPairs(text)
        expect(pairs.length + unread.length).toBe(full)
      }),
    ))
})
