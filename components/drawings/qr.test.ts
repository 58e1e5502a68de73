import jsQR from 'jsqr'
import { qrOf } from './qr'

/** Draws a code as a camera sees it, `scale` pixels to a module. */
function seen({ size, path }: ReturnType<typeof qrOf>, scale: number) {
  const pixels = new Uint8ClampedArray(size * scale * size * scale * 4).fill(255)
  for (const [, x, y] of path.matchAll(/M(\d+) (\d+)h1/g))
    for (let dy = 0; dy < scale; dy++)
      for (let dx = 0; dx < scale; dx++) {
        const at = ((Number(y) * scale + dy) * size * scale + Number(x) * scale + dx) * 4
        pixels[at] = pixels[at + 1] = pixels[at + 2] = 0
      }
  return jsQR(pixels, size * scale, size * scale)?.data
}

test.each(['http://127.0.0.1:4290/units/7', 'http://bench.lantern.example:4290/units/123456'])(
  '%s is read back by a camera',
  (url) => expect(seen(qrOf(url), 5)).toBe(url),
)
test('it keeps four modules free around it', () => {
  const { size, path } = qrOf('http://127.0.0.1:4290/units/7')
  const at = [...path.matchAll(/M(\d+) (\d+)h1/g)].flatMap(([, x, y]) => [Number(x), Number(y)])
  expect([Math.min(...at), Math.max(...at)]).toEqual([4, size - 5])
})
