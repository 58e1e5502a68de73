import fc from 'fast-check'
import { pictureSize } from './dimensions'

const bytes = (...parts: (number | string | number[])[]) =>
  new Uint8Array(
    parts.flatMap((p) => (typeof p === 'string' ? [...p].map((c) => c.charCodeAt(0)) : Array.isArray(p) ? p : [p])),
  )
const u32 = (n: number) => [n >>> 24, (n >>> 16) & 255, (n >>> 8) & 255, n & 255]
const u16 = (n: number) => [n >> 8, n & 255]
const png = (w: number, h: number) => bytes(0x89, 'PNG\r\n\x1a\n', u32(13), 'IHDR', u32(w), u32(h), [8, 2, 0, 0, 0])
/** A camera's APP1 with the orientation tag, then a frame header. */
const jpeg = (w: number, h: number, orientation: number | null) => {
  const tiff = [
    'II',
    [42, 0, 8, 0, 0, 0],
    [1, 0],
    [0x12, 0x01, 3, 0, 1, 0, 0, 0, orientation ?? 0, 0, 0, 0],
    [0, 0, 0, 0],
  ]
  const exif = orientation === null ? new Uint8Array() : bytes('Exif', [0, 0], ...tiff)
  const app1 = orientation === null ? [] : [0xff, 0xe1, ...u16(exif.length + 2), ...exif]
  return bytes([0xff, 0xd8], app1, [0xff, 0xc0], u16(17), 8, u16(h), u16(w), new Array(12).fill(1) as number[])
}

describe('what a photo is, before it is kept', () => {
  test('PNG', () =>
    expect(pictureSize(png(320, 200))).toEqual({ type: 'image/png', width: 320, height: 200, orientation: 1 }))
  test('JPEG with and without a turn', () => {
    expect(pictureSize(jpeg(4000, 3000, 6))).toEqual({ type: 'image/jpeg', width: 4000, height: 3000, orientation: 6 })
    expect(pictureSize(jpeg(9000, 6700, null))).toMatchObject({ width: 9000, height: 6700, orientation: 1 })
  })
  test('WebP, lossless', () => {
    const bits = (640 - 1) | ((480 - 1) << 14)
    const file = bytes(
      'RIFF',
      [0, 0, 0, 0],
      'WEBP',
      'VP8L',
      [0, 0, 0, 0],
      0x2f,
      [bits & 255, (bits >> 8) & 255, (bits >> 16) & 255, bits >>> 24],
      [0, 0, 0, 0, 0, 0],
    )
    expect(pictureSize(file)).toMatchObject({ type: 'image/webp', width: 640, height: 480 })
  })
  test('no picture, and no pixels', () => {
    expect(pictureSize(bytes('GIF89a'))).toBe(null)
    expect(pictureSize(bytes('<svg>'))).toBe(null)
    expect(pictureSize(new Uint8Array())).toBe(null)
    expect(pictureSize(png(0, 0))).toMatchObject({ width: 0, height: 0 })
  })
  test('cut off anywhere, or filled with anything: an answer, never a throw', () => {
    const whole = jpeg(4000, 3000, 6)
    for (let n = 0; n < whole.length; n++) expect(() => pictureSize(whole.subarray(0, n))).not.toThrow()
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (noise) => {
        for (const start of [[0xff, 0xd8, 0xff], [0x89, 0x50, 0x4e, 0x47], []])
          pictureSize(new Uint8Array([...start, ...noise]))
      }),
    )
  })
})
