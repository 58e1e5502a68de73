const digits = '0123456789abcdef'

/** Lower-case hex, two digits a byte. */
export function hexOf(bytes: Uint8Array): string {
  let out = ''
  for (let i = 0; i < bytes.length; i++)
    out += digits[(bytes[i] as number) >> 4] + (digits[(bytes[i] as number) & 15] as string)
  return out
}

/** Bytes of a hex string, or null when it is not whole pairs of hex digits. */
export function bytesOfHex(hex: string): Uint8Array | null {
  if (hex.length % 2 || !/^[0-9a-fA-F]*$/.test(hex)) return null
  const out = new Uint8Array(hex.length / 2)
  for (let i = 0; i < out.length; i++) out[i] = Number.parseInt(hex.slice(2 * i, 2 * i + 2), 16)
  return out
}

/** Each byte as one character (Latin-1), in pieces so that the call stack holds. */
export function latin1(bytes: Uint8Array): string {
  let out = ''
  for (let at = 0; at < bytes.length; at += 8192) out += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return out
}

/** The low byte of every character; the inverse of {@link latin1}. */
export const bytesOfLatin1 = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0) & 0xff)

/** UTF-8 bytes of a string (core has no TextEncoder). A lone surrogate becomes U+FFFD. */
export function utf8(text: string): Uint8Array {
  const out: number[] = []
  for (const character of text) {
    let c = character.codePointAt(0) as number
    if (c >= 0xd800 && c <= 0xdfff) c = 0xfffd
    if (c < 0x80) out.push(c)
    else if (c < 0x800) out.push(0xc0 | (c >> 6), 0x80 | (c & 63))
    else if (c < 0x10000) out.push(0xe0 | (c >> 12), 0x80 | ((c >> 6) & 63), 0x80 | (c & 63))
    else out.push(0xf0 | (c >> 18), 0x80 | ((c >> 12) & 63), 0x80 | ((c >> 6) & 63), 0x80 | (c & 63))
  }
  return Uint8Array.from(out)
}

/** Digits in groups of three with thin spaces: 12 345. */
export const grouped = (n: number): string => String(n).replace(/\B(?=(\d{3})+(?!\d))/g, '\u2009')

/** An offset or length as it is written on the bench: 0x1000. */
export const hexNumber = (n: number): string => `0x${n.toString(16).toUpperCase()}`

/** A size in the unit people say it in: 512 KiB, 1 MiB, 48 bytes. */
export function sizeWords(bytes: number): string {
  if (bytes >= 1048576 && bytes % 1048576 === 0) return `${bytes / 1048576} MiB`
  if (bytes >= 1024 && bytes % 1024 === 0) return `${bytes / 1024} KiB`
  return `${grouped(bytes)} bytes`
}
