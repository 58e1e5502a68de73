import { deflateSync } from 'node:zlib'
import { crc32 } from '@fresh-coat/core/bytes/checksums'

/** A PNG from a function of the pixel: the demo draws its photos instead of carrying them. */
export function png(
  width: number,
  height: number,
  pixel: (x: number, y: number) => [number, number, number],
): Uint8Array {
  const rows = Buffer.alloc(height * (1 + width * 3))
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) rows.set(pixel(x, y), y * (1 + width * 3) + 1 + x * 3)
  const chunk = (type: string, data: Uint8Array) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
    const out = Buffer.alloc(body.length + 8)
    out.writeUInt32BE(data.length, 0)
    body.copy(out, 4)
    out.writeUInt32BE(crc32(body), body.length + 4)
    return out
  }
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width, 0)
  header.writeUInt32BE(height, 4)
  header.set([8, 2, 0, 0, 0], 8)
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', new Uint8Array(0)),
  ])
}

type Box = [x: number, y: number, w: number, h: number, colour: [number, number, number]]

/** A board on the mat, seen from above: substrate, chip, relay, terminals, a row of pads. */
export function boardPhoto(pads: number, relays: number): Uint8Array {
  const boxes: Box[] = [
    [20, 20, 280, 160, [46, 96, 66]],
    [44, 44, 60, 60, [32, 36, 38]],
    ...Array.from({ length: relays }, (_, i): Box => [130 + i * 46, 40, 38, 52, [36, 74, 130]]),
    [232, 118, 54, 48, [150, 156, 150]],
    ...Array.from({ length: pads }, (_, i): Box => [48 + i * 22, 140, 12, 12, [212, 178, 92]]),
  ]
  return png(320, 200, (x, y) => {
    for (let i = boxes.length - 1; i >= 0; i--) {
      const [bx, by, w, h, colour] = boxes[i] as Box
      if (x >= bx && x < bx + w && y >= by && y < by + h) return colour
    }
    return (x + y) % 40 < 2 ? [202, 212, 208] : [214, 223, 219]
  })
}
