import fc from 'fast-check'
import { bytesOfLatin1 } from '../bytes/text'
import { covered, Heard, hexRows } from './heard'

const linesOf = (heard: Heard) => heard.lines.map((l) => `${l.from} ${l.text}`)

test('CR, LF and CR LF end a line, also in two pieces', () => {
  const heard = new Heard()
  heard.hear(bytesOfLatin1('one\r'), 5)
  heard.hear(bytesOfLatin1('\ntwo\nthree\rfo'), 9)
  heard.hear(bytesOfLatin1('ur'), 12)
  expect(linesOf(heard)).toEqual(['unit one', 'unit two', 'unit three', 'unit four'])
  expect(heard.lines.map((l) => l.atMs)).toEqual([5, 9, 9, 9])
  expect(heard.wholeAfter(null)).toEqual(['one', 'two', 'three'])
})

test('lines are the same however the bytes were cut', () =>
  fc.assert(
    fc.property(fc.array(fc.constantFrom('a', '\r', '\n', 'b'), { maxLength: 40 }), fc.nat(39), (parts, cut) => {
      const text = parts.join('')
      const [whole, cutUp] = [new Heard(), new Heard()]
      whole.hear(bytesOfLatin1(text), 0)
      for (const piece of [text.slice(0, cut), text.slice(cut)]) cutUp.hear(bytesOfLatin1(piece), 0)
      expect(linesOf(cutUp)).toEqual(linesOf(whole))
    }),
  ))

test('a line of ours stands where it was said; only what is whole behind it can answer', () => {
  const heard = new Heard()
  heard.hear(bytesOfLatin1('before\nhal'), 1)
  const asked = heard.said('which coat', 2)
  heard.hear(bytesOfLatin1('f\ncoat'), 3)
  expect(linesOf(heard)).toEqual(['unit before', 'unit hal', 'us which coat', 'unit f', 'unit coat'])
  expect(heard.wholeAfter(asked)).toEqual(['f'])
})

test('memory is bounded: the oldest lines and bytes go, and how many is known', () => {
  const heard = new Heard()
  for (let i = 0; i < 2500; i++) heard.hear(bytesOfLatin1(`line ${i}\n`), i)
  expect(heard.lines).toHaveLength(2000)
  expect([heard.dropped, heard.lines[0]?.text, heard.tail.length]).toEqual([500, 'line 500', 4096])
  expect(heard.total).toBeGreaterThan(4096)
})

test('rows of sixteen bytes with their places', () =>
  expect(
    hexRows(
      Uint8Array.from({ length: 18 }, (_, i) => i + 60),
      32,
    ),
  ).toEqual([
    { at: 32, hex: '3c 3d 3e 3f 40 41 42 43 44 45 46 47 48 49 4a 4b', text: '<=>?@ABCDEFGHIJK' },
    { at: 48, hex: '4c 4d', text: 'LM' },
  ]))

test('what is kept has its secrets covered, and nothing else', () => {
  const { text, places } = covered('hello\npassword=open sesame 99\nrst cause:1\nschön')
  expect(places).toBe(1)
  expect(text).not.toContain('sesame')
  expect(text).toMatch(/^hello\npassword=•••/)
  expect(text).toMatch(/rst cause:1\nschön$/)
  expect(covered('rst:0x1 (POWERON_RESET),boot:0x13 (SPI_FAST_FLASH_BOOT)').places).toBe(0)
})
