import fc from 'fast-check'
import { bytesOfLatin1 } from '../bytes/text'
import { printableStrings } from './strings'

const page = (text: string, wanted = '') => printableStrings(bytesOfLatin1(text), 0, 6, 100, wanted)

describe('text in a dump', () => {
  test('runs of six or more, with their places', () =>
    expect(page('\x00\x01abc\x00hello there\xffsecond one')).toEqual({
      strings: [
        { offset: 6, text: 'hello there', covered: false },
        { offset: 18, text: 'second one', covered: false },
      ],
      next: null,
    }))
  test('a key is covered, its name may stay', () => {
    const [found] = page('\x00{"mode":1,"pass":"limelight-12","x":2}\x00').strings
    expect(found?.covered).toBe(true)
    expect(found?.text).not.toContain('limelight')
    expect(found?.text.startsWith('{"mode":1,"')).toBe(true)
  })
  test('asking for the covered text finds nothing', () =>
    expect(page('pass=limelight-12 and more', 'limelight').strings).toEqual([]))
  test.each(['plain', 'PLAIN', 'n t', 'text ', 'nothing', '"', 'e'])(
    'asking for %j gives what has it, in any case',
    (wanted) => {
      const bytes = bytesOfLatin1(
        'Plain text, and more\x00plain\x00pass=plainly-put\x00"quoted here"\xffTEXT of pLaIn kind\x00',
      )
      const all = printableStrings(bytes, 0, 4, 100).strings
      expect(printableStrings(bytes, 0, 4, 100, wanted).strings).toEqual(
        all.filter((s) => s.text.toLowerCase().includes(wanted.toLowerCase())),
      )
    },
  )
  test('page by page gives the same as all at once', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(fc.constantFrom('\x00', '\xff', 'pass=abcdefgh', 'plain text '), fc.string({ maxLength: 9 })),
          { maxLength: 40 },
        ),
        (parts) => {
          const bytes = bytesOfLatin1(parts.join(''))
          const all = printableStrings(bytes, 0, 4, 10_000).strings
          const paged: typeof all = []
          let from: number | null = 0
          while (from !== null) {
            const one = printableStrings(bytes, from, 4, 2)
            paged.push(...one.strings)
            from = one.next
          }
          expect(paged).toEqual(all)
        },
      ),
    ))
})
