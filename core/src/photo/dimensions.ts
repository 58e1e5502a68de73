/** Size and turn of a picture from its first bytes, without decoding it: a broken one is refused before it is stored. */

export interface PictureSize {
  type: 'image/jpeg' | 'image/png' | 'image/webp'
  width: number
  height: number
  /** Turn written by the camera (Exif orientation, 1 to 8); 1 where none is. */
  orientation: number
}

const ascii = (b: Uint8Array, at: number, n: number): string => String.fromCharCode(...b.subarray(at, at + n))

/** Exif orientation from an APP1 segment: TIFF header, then the first directory's tag 0x0112. */
function exifOrientation(b: Uint8Array, start: number, end: number): number {
  if (ascii(b, start, 4) !== 'Exif') return 1
  const tiff = start + 6
  const little = ascii(b, tiff, 2) === 'II'
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength)
  if (tiff + 8 > end) return 1
  const directory = tiff + view.getUint32(tiff + 4, little)
  if (directory + 2 > end) return 1
  const entries = view.getUint16(directory, little)
  for (let i = 0; i < entries; i++) {
    const entry = directory + 2 + i * 12
    if (entry + 12 > end) return 1
    if (view.getUint16(entry, little) !== 0x0112) continue
    const value = view.getUint16(entry + 8, little)
    return value >= 1 && value <= 8 ? value : 1
  }
  return 1
}

/** Markers that start a frame with its size (ITU T.81, table B.1): SOF0 to SOF15 without DHT, JPG and DAC. */
const isFrame = (marker: number) => marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)

function jpegSize(b: Uint8Array): PictureSize | null {
  let orientation = 1
  let at = 2
  while (at + 9 < b.length) {
    if (b[at] !== 0xff) return null
    const marker = b[at + 1] as number
    const length = ((b[at + 2] as number) << 8) | (b[at + 3] as number)
    if (marker === 0xff) {
      at++
      continue
    }
    if (length < 2) return null
    if (marker === 0xe1) orientation = exifOrientation(b, at + 4, Math.min(b.length, at + 2 + length))
    if (isFrame(marker)) {
      const height = ((b[at + 5] as number) << 8) | (b[at + 6] as number)
      const width = ((b[at + 7] as number) << 8) | (b[at + 8] as number)
      return { type: 'image/jpeg', width, height, orientation }
    }
    at += 2 + length
  }
  return null
}

function webpSize(b: Uint8Array): PictureSize | null {
  const kind = ascii(b, 12, 4)
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength)
  const size = (width: number, height: number): PictureSize => ({ type: 'image/webp', width, height, orientation: 1 })
  if (b.length < 30) return null
  if (kind === 'VP8 ') return size(view.getUint16(26, true) & 0x3fff, view.getUint16(28, true) & 0x3fff)
  if (kind === 'VP8L') {
    const bits = view.getUint32(21, true)
    return size((bits & 0x3fff) + 1, ((bits >>> 14) & 0x3fff) + 1)
  }
  if (kind === 'VP8X') {
    const three = (at: number) => (b[at] as number) | ((b[at + 1] as number) << 8) | ((b[at + 2] as number) << 16)
    return size(three(24) + 1, three(27) + 1)
  }
  return null
}

/** Null when the bytes are no JPEG, PNG or WebP, or break off before their size. */
export function pictureSize(b: Uint8Array): PictureSize | null {
  if (b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff) return jpegSize(b)
  if (b[0] === 0x89 && ascii(b, 1, 3) === 'PNG' && b.length >= 24 && ascii(b, 12, 4) === 'IHDR') {
    const view = new DataView(b.buffer, b.byteOffset, b.byteLength)
    return { type: 'image/png', width: view.getUint32(16), height: view.getUint32(20), orientation: 1 }
  }
  if (ascii(b, 0, 4) === 'RIFF' && ascii(b, 8, 4) === 'WEBP') return webpSize(b)
  return null
}

/** More than this is made smaller in the browser before it is kept: a tablet cannot show it. */
export const mostMegapixels = 24
export const keptEdgePixels = 4096
