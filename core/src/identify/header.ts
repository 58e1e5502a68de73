import { crc16 } from '../bytes/checksums'
import { isLoadAddress } from '../image/addresses'

/** What the first bytes of a dump or image say, as a value of the `header` check. */
export type HeaderValue = 'e9_plain' | 'e9_lx6' | 'e9_lx7' | 'e9_rv32' | 'crc34' | 'a0ffff9f' | 'blank' | 'other'

const block = 34

/** ARM968 stores code as 32 bytes and their CRC-16, high byte first; sixteen right in a row are no accident. */
function looksLikeCrc34(bytes: Uint8Array): boolean {
  if (bytes.length < 16 * block) return false
  for (let i = 0; i < 16; i++) {
    const at = i * block
    const stored = ((bytes[at + 32] as number) << 8) | (bytes[at + 33] as number)
    if (crc16(bytes.subarray(at, at + 32)) !== stored) return false
  }
  return true
}

/** Reads the `header` observation from the start of a file (at least its first 0x1010 bytes, when it has them). */
export function headerOf(bytes: Uint8Array): HeaderValue {
  if (bytes.length === 0) return 'other'
  if (bytes.every((b) => b === 0xff)) return 'blank'
  if (bytes[0] === 0x9f && bytes[1] === 0xff && bytes[2] === 0xff && bytes[3] === 0xa0) return 'a0ffff9f'
  if (looksLikeCrc34(bytes)) return 'crc34'
  const start = bytes[0] === 0xe9 ? 0 : bytes[0x1000] === 0xe9 ? 0x1000 : -1
  if (start < 0 || bytes.length < start + 14) return 'other'
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (isLoadAddress(view.getUint32(start + 8, true))) return 'e9_plain'
  const chip = view.getUint16(start + 12, true)
  if (chip === 0) return 'e9_lx6'
  if (chip === 2 || chip === 9) return 'e9_lx7'
  if (chip === 5 || chip === 12 || chip === 13 || chip === 16) return 'e9_rv32'
  return 'other'
}
