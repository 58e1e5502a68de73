/** Builds the table of a reflected CRC-32 (polynomial EDB88320, ISO 3309). */
const crc32Table = (() => {
  const table = new Uint32Array(256)
  for (let n = 0; n < 256; n++) {
    let c = n
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
    table[n] = c >>> 0
  }
  return table
})()

/**
 * Reflected CRC-32 with final inversion.
 * @param start the register before the first byte: all ones for the usual CRC-32, 0 for slot-select records
 */
export function crc32(bytes: Uint8Array, start = 0xffffffff): number {
  let c = start >>> 0
  for (let i = 0; i < bytes.length; i++) c = (crc32Table[(c ^ (bytes[i] as number)) & 0xff] as number) ^ (c >>> 8)
  return (c ^ 0xffffffff) >>> 0
}

/** CRC-16, polynomial 0x8005, start 0xFFFF, not reflected, no final XOR. */
export function crc16(bytes: Uint8Array): number {
  let c = 0xffff
  for (let i = 0; i < bytes.length; i++) {
    c ^= (bytes[i] as number) << 8
    for (let k = 0; k < 8; k++) c = c & 0x8000 ? ((c << 1) ^ 0x8005) & 0xffff : (c << 1) & 0xffff
  }
  return c
}
