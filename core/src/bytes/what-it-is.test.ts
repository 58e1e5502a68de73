import { buildLx106, noise } from '../image/build'
import { bytesOfLatin1 } from './text'
import { plainlySomethingElse } from './what-it-is'

test.each([
  ['a PNG picture', '\x89PNG\r\n\x1a\n'],
  ['a JPEG picture', '\xff\xd8\xff\xe0\0\x10JFIF'],
  ['a JPEG picture', '\xff\xd8\xff\xe1Exif'],
  ['a WebP picture', 'RIFF\0\0\0\0WEBPVP8 '],
  ['a HEIC picture', '\0\0\0\x18ftypheic'],
  ['a video', '\0\0\0\x18ftypmp42'],
  ['a PDF document', '%PDF-1.7'],
  ['a ZIP archive', 'PK\x03\x04'],
  ['a web page', '<!DOCTYPE html>'],
])('%s is told from %j', (what, head) =>
  expect(plainlySomethingElse(bytesOfLatin1(`${head}\0\0\0\0\0\0\0\0`))).toBe(what),
)

test.each([
  ['nothing', new Uint8Array(0)],
  ['an erased chip', new Uint8Array(4096).fill(0xff)],
  ['noise', noise(4096, 3)],
  ['a table', bytesOfLatin1('\xaaP\x01\x02')],
  ['half a signature', bytesOfLatin1('\x89PN')],
])('%s may be a file of a chip', (_, bytes) => expect(plainlySomethingElse(bytes)).toBe(null))

test('an image is one', () => {
  const image = buildLx106({
    mode: 'DIO',
    flashBytes: 2 ** 20,
    entry: 0x40100004,
    segments: [{ address: 0x40100000, data: noise(64, 1) }],
  } as never)
  expect(plainlySomethingElse(image)).toBe(null)
})
