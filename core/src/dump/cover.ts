import { byteClass, eachSecret, isBlank, isQuote, lower, runEnd, searchSeparators } from './secrets'
import { wordsOf } from './sectors'

/**
 * What of a private file is covered when a page shows it. More than is counted as a secret: key blocks to their end, whole
 * values with blanks and commas in them, long tokens, and the common names of what people keep to themselves. Rather too much
 * than too little: it can be shown on purpose.
 */
export interface Covered {
  offset: number
  length: number
}

const latin = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0))
/** Ends of names, so that "local_key" and "wifi-password" count too. */
const nameEnds =
  'ssid psk wpa passphrase password passwd passcode pass pwd psw secret token key auth authorization bearer credential credentials login user username userid session cookie pin'
    .split(' ')
    .map(latin)
const endMark = latin('-----END')
const fiveDashes = latin('-----')

const longestBlock = 16_384
const longestQuoted = 1024
const longestPlain = 256
const shortestToken = 40
const shortestHex = 32

/** Text that goes on: everything but controls, and the bytes of empty flash. */
const isText = byteClass([' ', '~'], ['\x80', '\xfe'])
const isPlain = byteClass([' ', '!'], ['#', '%'], ["'", '|'], ['~', '~'], ['\x80', '\xfe'])
const isToken = byteClass(
  ['a', 'z'],
  ['A', 'Z'],
  ['0', '9'],
  ['+', '+'],
  ['/', '/'],
  ['_', '_'],
  ['-', '-'],
  ['=', '='],
)
const isBlockText = byteClass([' ', '~'], ['\n', '\n'], ['\r', '\r'], ['\t', '\t'])

function indexOf(bytes: Uint8Array, what: Uint8Array, from: number, to: number): number {
  for (let i = from; i + what.length <= to; i++) {
    let k = 0
    while (k < what.length && bytes[i + k] === what[k]) k++
    if (k === what.length) return i
  }
  return -1
}

/** A key block from its BEGIN to behind its END; without an END, to where the text ends. */
function blockEnd(bytes: Uint8Array, begin: number): number {
  const most = Math.min(bytes.length, begin + longestBlock)
  const end = indexOf(bytes, endMark, begin, most)
  if (end < 0) return runEnd(bytes, isBlockText, begin, longestBlock)
  const close = indexOf(bytes, fiveDashes, end + endMark.length, Math.min(bytes.length, end + 200))
  return close < 0 ? end + endMark.length : close + fiveDashes.length
}

/** Names by their last letter: most separators are ruled out by the byte before them. */
const byLastLetter: readonly (readonly Uint8Array[])[] = Array.from({ length: 256 }, (_, b) =>
  nameEnds.filter((name) => name[name.length - 1] === lower(b)),
)

function endsWithName(bytes: Uint8Array, end: number): boolean {
  if (end < 1) return false
  for (const name of byLastLetter[bytes[end - 1] as number] as readonly Uint8Array[]) {
    const start = end - name.length
    if (start < 0) continue
    let i = 0
    while (i < name.length && lower(bytes[start + i] as number) === name[i]) i++
    if (i === name.length) return true
  }
  return false
}

/**
 * The value behind a separator, as far as a person would read it as one.
 * @param known end of the value before: what lies up to there has been looked at, so that a row of names stays quick
 */
function valueAt(bytes: Uint8Array, separator: number, known: number): Covered | null {
  let start = separator + 1
  while (isBlank(bytes[start])) start++
  const quote = bytes[start]
  if (!isQuote(quote)) {
    const looked = Math.max(start, Math.min(known, start + longestPlain))
    const end = runEnd(bytes, isPlain, looked, start + longestPlain - looked)
    return end > start ? { offset: start, length: end - start } : null
  }
  start++
  let end = start
  const most = Math.min(bytes.length, start + longestQuoted)
  while (end < most && isText[bytes[end] as number] === 1 && (bytes[end] !== quote || bytes[end - 1] === 0x5c)) end++
  return end > start ? { offset: start, length: end - start } : null
}

type Put = (offset: number, length: number) => void

function namedValues(bytes: Uint8Array, put: Put): void {
  let known = 0
  searchSeparators(bytes, wordsOf(bytes), 0, bytes.length, {
    separator: (i) => {
      let p = i
      while (p > 0 && isBlank(bytes[p - 1])) p--
      if (p > 0 && isQuote(bytes[p - 1])) p--
      if (!endsWithName(bytes, p)) return
      const value = valueAt(bytes, i, known)
      // An address has its own rule; its scheme is no name.
      if (value && !(bytes[i] === 0x3a && bytes[i + 1] === 0x2f && bytes[i + 2] === 0x2f)) {
        known = value.offset + value.length
        put(value.offset, value.length)
      }
    },
  })
}

/** Looks like a made-up row of signs: letters of both kinds and digits, or a long hex number. */
function isKeyLike(bytes: Uint8Array, from: number, to: number): boolean {
  let upper = 0
  let small = 0
  let digits = 0
  let hex = 0
  let slashes = 0
  for (let i = from; i < to; i++) {
    const b = bytes[i] as number
    if (b >= 0x30 && b <= 0x39) digits++
    else if (b >= 0x41 && b <= 0x5a) upper++
    else if (b >= 0x61 && b <= 0x7a) small++
    if ((b >= 0x30 && b <= 0x39) || (lower(b) >= 0x61 && lower(b) <= 0x66)) hex++
    if (b === 0x2f) slashes++
  }
  const length = to - from
  if (hex === length) return length >= shortestHex && digits > 2 && upper + small > 2
  // A path has many slashes; a key has few.
  return length >= shortestToken && upper > 3 && small > 3 && digits > 2 && slashes * 12 <= length
}

/** Every token of `shortestHex` signs holds one at every such place. */
function longTokens(bytes: Uint8Array, put: Put): void {
  for (let i = shortestHex - 1; i < bytes.length; i += shortestHex) {
    if (isToken[bytes[i] as number] === 0) continue
    let from = i
    while (from > 0 && isToken[bytes[from - 1] as number] === 1) from--
    const to = runEnd(bytes, isToken, i, bytes.length)
    if (isKeyLike(bytes, from, to)) put(from, to - from)
    if (to > i) i = Math.floor((to - (shortestHex - 1) + shortestHex - 1) / shortestHex) * shortestHex - 1
  }
}

/** The part of a named secret behind its separator. */
function putValue(bytes: Uint8Array, from: number, to: number, put: Put): void {
  let value = from
  while (value < to && bytes[value] !== 0x3a && bytes[value] !== 0x3d) value++
  value++
  while (value < to && (isBlank(bytes[value]) || isQuote(bytes[value]))) value++
  put(value, to - value)
}

/** One byte for every byte: 1 where it is covered. A list of places would be longer than a file that is full of them. */
export function coverMask(bytes: Uint8Array): Uint8Array {
  const mask = new Uint8Array(bytes.length)
  const put: Put = (offset, length) => void mask.fill(1, offset, offset + length)
  let blocksEnd = 0
  eachSecret(bytes, undefined, (kind, offset, length) => {
    // Of a named one the name stays: that it is there is no secret.
    if (kind === 'named') putValue(bytes, offset, offset + length, put)
    else if (kind !== 'pem') put(offset, length)
    if (kind !== 'pem') return
    if (offset < blocksEnd) return
    blocksEnd = blockEnd(bytes, offset)
    put(offset, blocksEnd - offset)
  })
  namedValues(bytes, put)
  longTokens(bytes, put)
  return mask
}

/** Everything that is covered, in the order of the places and without overlaps. */
export function coveredPlaces(bytes: Uint8Array): Covered[] {
  const mask = coverMask(bytes)
  const places: Covered[] = []
  for (let at = mask.indexOf(1); at >= 0; ) {
    const end = mask.indexOf(0, at)
    const stop = end < 0 ? mask.length : end
    places.push({ offset: at, length: stop - at })
    at = mask.indexOf(1, stop)
  }
  return places
}
