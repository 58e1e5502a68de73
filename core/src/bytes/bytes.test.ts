import fc from 'fast-check'
import { gzipSync } from 'fflate'
import { noise } from '../image/build'
import { crc16, crc32 } from './checksums'
import { md5Hex, sha256Hex } from './digests'
import { gunzip } from './gunzip'
import { bytesOfHex, bytesOfLatin1, grouped, hexNumber, hexOf, latin1, sizeWords, utf8 } from './text'

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0))

describe('checksums, by their published check values', () => {
  test('of the nine digits', () => {
    const nine = ascii('123456789')
    expect(crc32(nine)).toBe(0xcbf43926)
    // CRC-16 with this polynomial, start and no reflection: the catalogue's CMS.
    expect(crc16(nine)).toBe(0xaee7)
  })
  test('of nothing', () => {
    expect(crc32(new Uint8Array(0))).toBe(0)
    expect(sha256Hex(new Uint8Array(0))).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855')
    expect(md5Hex(new Uint8Array(0))).toBe('d41d8cd98f00b204e9800998ecf8427e')
  })
  test('a changed bit is noticed wherever it is', () =>
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 200 }), fc.nat(), fc.nat(7), (bytes, place, bit) => {
        const other = bytes.slice()
        const at = place % bytes.length
        other[at] = (other[at] as number) ^ (1 << bit)
        expect(crc32(other)).not.toBe(crc32(bytes))
        expect(crc16(other)).not.toBe(crc16(bytes))
      }),
    ))
})

describe('hex and text', () => {
  test('hex comes back', () => fc.assert(fc.property(fc.uint8Array(), (b) => expect(bytesOfHex(hexOf(b))).toEqual(b))))
  test('capitals are read, halves and letters are not', () => {
    expect(bytesOfHex('FFfe')).toEqual(Uint8Array.of(255, 254))
    for (const bad of ['f', '0g', 'zz', '0x00', ' 00']) expect(bytesOfHex(bad)).toBe(null)
  })
  test('Latin-1 comes back, also longer than a call stack takes', () => {
    const bytes = noise(300_000, 7)
    expect(Buffer.from(bytesOfLatin1(latin1(bytes))).equals(Buffer.from(bytes))).toBe(true)
  })
  test('UTF-8 is what the platform makes of it', () =>
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) =>
        expect(Buffer.from(utf8(text)).equals(Buffer.from(text, 'utf8'))).toBe(true),
      ),
    ))
  test('half a character becomes the sign for that', () => expect(utf8('\ud83d')).toEqual(utf8('\ufffd')))
  test.each([
    [0, '0'],
    [999, '999'],
    [1000, '1\u2009000'],
    [16_777_216, '16\u2009777\u2009216'],
  ])('%i in groups', (n, text) => expect(grouped(n)).toBe(text))
  test.each([
    [48, '48 bytes'],
    [1024, '1 KiB'],
    [1_048_576, '1 MiB'],
    [1_048_577, '1\u2009048\u2009577 bytes'],
    [1536, '1\u2009536 bytes'],
  ])('%i bytes in the unit that people say', (n, text) => expect(sizeWords(n)).toBe(text))
  test('an offset as it stands on the bench', () => expect(hexNumber(69_632)).toBe('0x11000'))
})

describe('a packed file', () => {
  const bytes = noise(50_000, 3)
  const packed = gzipSync(bytes)
  test('comes out whole', () => {
    const out = gunzip(packed, 60_000)
    expect(out.ok && Buffer.from(out.bytes).equals(Buffer.from(bytes))).toBe(true)
  })
  test('that would grow past the limit is refused on the way', () => {
    const bomb = gzipSync(new Uint8Array(5_000_000))
    expect(gunzip(bomb, 100_000)).toEqual({ ok: false, reason: 'too-large' })
  })
  test.each([1, 9, 17, packed.length >> 1, packed.length - 1])(
    'cut off at byte %i is not taken for a whole one',
    (at) => expect(gunzip(packed.subarray(0, at), 60_000).ok).toBe(false),
  )
  test('with a changed byte in its checksum is not', () => {
    const bad = packed.slice()
    bad[bad.length - 6] = (bad[bad.length - 6] as number) ^ 1
    expect(gunzip(bad, 60_000)).toEqual({ ok: false, reason: 'bad' })
  })
  test('bytes that are none are bad, not a crash', () =>
    fc.assert(fc.property(fc.uint8Array({ maxLength: 64 }), (junk) => expect(gunzip(junk, 1000)).toHaveProperty('ok'))))
})
