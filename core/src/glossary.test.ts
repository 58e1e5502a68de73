import fc from 'fast-check'
import { glossary, piecesOf } from './glossary'

describe('words of the trade', () => {
  test('are found whole, each at its first place only', () => {
    const pieces = piecesOf('Free BOOT, then hold BOOT: the straps decide. Flashback is no flash.')
    expect(pieces.filter((p) => p.entry).map((p) => p.text)).toEqual(['BOOT', 'straps', 'flash'])
  })
  test('the longer one wins, and parts of words are none', () => {
    expect(
      piecesOf('Into download mode by a non-isolated board')
        .filter((p) => p.entry)
        .map((p) => p.text),
    ).toEqual(['download mode'])
  })
  test('every one is explained in one sentence, and no form means two things', () => {
    for (const { says } of glossary) {
      expect(says.endsWith('.')).toBe(true)
      expect(says.length).toBeLessThan(120)
    }
    const forms = glossary.flatMap((e) => [e.term, ...e.also])
    expect(new Set(forms).size).toBe(forms.length)
  })
  test('joined, the pieces are the text', () => {
    const word = fc.constantFrom('BOOT', 'flash', 'a ', ' straps', 'TX', '-', 'é', 'MAC.')
    fc.assert(
      fc.property(fc.array(fc.oneof(word, fc.string())), (parts) => {
        const text = parts.join('')
        expect(
          piecesOf(text)
            .map((p) => p.text)
            .join(''),
        ).toBe(text)
      }),
    )
  })
})
