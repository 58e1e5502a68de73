import { type Run, sectorBytes, wordsOf } from './sectors'

/**
 * Strings that look like passwords or keys. The patterns, as regular expressions over the bytes read as Latin-1:
 *
 *   named    (?:ssid|psk|passphrase|password|passwd|pass|secret|token|api_?key)["']?[ \t]*[=:][ \t]*["']?[!#-&(-+\--:<-~]{4,64}
 *   pem      -----BEGIN [A-Z0-9 ]+-----
 *   hex64    exactly 64 hex digits
 *   urlAuth  [a-z][a-z0-9+.-]{1,15}://[!-.0-9;-?A-~]{1,64}:[!-.0-9;-?A-~]{1,64}@
 *
 * They are matched by hand, each from the byte that gives it away: regular expressions need many seconds for 16 MiB that are
 * full of beginnings. secrets.test.ts compares both.
 */
export const secretKinds = ['named', 'pem', 'hex64', 'urlAuth'] as const
export type SecretKind = (typeof secretKinds)[number]

export interface SecretsFound {
  count: number
  byKind: Record<SecretKind, number>
  /** Sectors where one begins, ascending. */
  sectors: number[]
}

export interface SecretPlace {
  kind: SecretKind
  offset: number
  length: number
}

/** Membership of bytes in a class, as a table. */
export function byteClass(...ranges: [from: string, to: string][]): Uint8Array {
  const table = new Uint8Array(256)
  for (const [from, to] of ranges) table.fill(1, from.charCodeAt(0), to.charCodeAt(0) + 1)
  return table
}
const isHexDigit = byteClass(['0', '9'], ['a', 'f'], ['A', 'F'])
const isValue = byteClass(['!', '!'], ['#', '&'], ['(', '+'], ['-', ':'], ['<', '~'])
const isLogin = byteClass(['!', '.'], ['0', '9'], [';', '?'], ['A', '~'])
const isScheme = byteClass(['a', 'z'], ['0', '9'], ['+', '+'], ['.', '.'], ['-', '-'])
const isPemWord = byteClass(['A', 'Z'], ['0', '9'], [' ', ' '])
const isLetter = byteClass(['a', 'z'])
const isDash = byteClass(['-', '-'])

const latin = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0))
/** No word ends with another one: at most one of them ends at a place. */
const words = 'ssid psk passphrase password passwd pass secret token apikey api_key'.split(' ').map(latin)
const begin = latin('BEGIN ')
/** What can stand right before a separator of a named value: the last letter of a word, a quote, a blank. */
const mayPrecede = byteClass(...[...'dkestnyDKESTNY"\' \t'].map((c): [string, string] => [c, c]))
export const lower = (b: number) => (b >= 0x41 && b <= 0x5a ? b + 32 : b)
export const isBlank = (b: number | undefined) => b === 0x20 || b === 0x09
export const isQuote = (b: number | undefined) => b === 0x22 || b === 0x27

/** End of the bytes of a class from `at` on, at most `limit` of them. */
export function runEnd(bytes: Uint8Array, table: Uint8Array, at: number, limit: number): number {
  const stop = Math.min(bytes.length, at + limit)
  let end = at
  while (end < stop && table[bytes[end] as number] === 1) end++
  return end
}

/** Where the word that ends before `end` begins; -1 when none does. */
function wordBefore(bytes: Uint8Array, end: number): number {
  for (const word of words) {
    const start = end - word.length
    if (start < 0) continue
    let i = 0
    while (i < word.length && lower(bytes[start + i] as number) === word[i]) i++
    if (i === word.length) return start
  }
  return -1
}

type Tell = (kind: SecretKind, offset: number, length: number) => void

/** Matches from left to right, none of a kind reaching into the one before. */
class Matcher {
  private namedEnd = 0
  private pemEnd = 0
  private urlEnd = 0
  constructor(
    private readonly bytes: Uint8Array,
    private readonly tell: Tell,
  ) {}

  /** A separator (= or :) at `i`: a named value around it, or an address with a login. */
  separator(i: number): void {
    const { bytes } = this
    if (mayPrecede[bytes[i - 1] as number] === 1) this.named(i)
    if (bytes[i] === 0x3a && bytes[i + 1] === 0x2f && bytes[i + 2] === 0x2f) this.urlAuth(i)
  }

  private named(i: number): void {
    const { bytes } = this
    let p = i
    while (p > 0 && isBlank(bytes[p - 1])) p--
    if (p > 0 && isQuote(bytes[p - 1])) p--
    const start = wordBefore(bytes, p)
    if (start < this.namedEnd) return
    let value = i + 1
    while (isBlank(bytes[value])) value++
    if (isQuote(bytes[value])) value++
    const end = runEnd(bytes, isValue, value, 64)
    if (end - value < 4) return
    this.namedEnd = end
    this.tell('named', start, end - start)
  }

  private urlAuth(i: number): void {
    const { bytes } = this
    const user = runEnd(bytes, isLogin, i + 3, 64)
    if (user === i + 3 || bytes[user] !== 0x3a) return
    const password = runEnd(bytes, isLogin, user + 1, 64)
    if (password === user + 1 || bytes[password] !== 0x40) return
    const least = Math.max(this.urlEnd, i - 16)
    let start = -1
    for (let s = i - 1; s >= least && isScheme[bytes[s] as number] === 1; s--)
      if (s <= i - 2 && isLetter[bytes[s] as number] === 1) start = s
    if (start < 0) return
    this.urlEnd = password + 1
    this.tell('urlAuth', start, password + 1 - start)
  }

  /** A run of dashes that ends before `end`. */
  dashes(first: number, end: number): void {
    const { bytes } = this
    const start = end - 5
    if (start < first || start < this.pemEnd) return
    for (let i = 0; i < begin.length; i++) if (bytes[end + i] !== begin[i]) return
    const body = end + begin.length
    const last = runEnd(bytes, isPemWord, body, bytes.length)
    if (last === body || runEnd(bytes, isDash, last, 5) < last + 5) return
    this.pemEnd = last + 5
    this.tell('pem', start, last + 5 - start)
  }
}

// The searches below are functions of their own, without inner ones: engines keep their loops in registers only then.

/** Every ":" and "=" of from..to. Four bytes at a time: a word that holds neither is passed over by arithmetic alone. */
export function searchSeparators(
  bytes: Uint8Array,
  words: Int32Array | null,
  from: number,
  to: number,
  found: { separator: (i: number) => void },
): void {
  let i = from
  if (words) {
    const end = to >> 2
    for (let w = from >> 2; w < end; w++) {
      const four = words[w] as number
      const colon = four ^ 0x3a3a3a3a
      const equals = four ^ 0x3d3d3d3d
      // The usual test for a zero byte in a word; | 0 keeps the difference an integer for the engine.
      if ((((((colon - 0x01010101) | 0) & ~colon) | (((equals - 0x01010101) | 0) & ~equals)) & -0x7f7f7f80) === 0)
        continue
      const at = w << 2
      for (let k = at; k < at + 4; k++) {
        const b = bytes[k]
        if (b === 0x3a || b === 0x3d) found.separator(k)
      }
    }
    i = end << 2
  }
  for (; i < to; i++) if (bytes[i] === 0x3a || bytes[i] === 0x3d) found.separator(i)
}

/** Five dashes hold one at every fifth place. A run is looked at once, or a file of dashes would never end. */
function searchDashes(bytes: Uint8Array, from: number, to: number, found: Matcher): void {
  for (let i = Math.ceil(from / 5) * 5; i < to; i += 5) {
    if (bytes[i] !== 0x2d) continue
    let first = i
    while (first > 0 && bytes[first - 1] === 0x2d) first--
    let end = i
    while (bytes[end] === 0x2d) end++
    i = (((end + 4) / 5) | 0) * 5 - 5
    found.dashes(first, end)
  }
}

/** 64 hex digits hold one at every 64th place. */
function searchHex(bytes: Uint8Array, from: number, to: number, tell: Tell): void {
  for (let i = Math.ceil(from / 64) * 64; i < to; i += 64) {
    if (isHexDigit[bytes[i] as number] === 0) continue
    let first = i
    while (first > 0 && isHexDigit[bytes[first - 1] as number] === 1) first--
    let end = i
    while (end < bytes.length && isHexDigit[bytes[end] as number] === 1) end++
    if (end - first === 64) tell('hex64', first, 64)
    if (end > i) i = ((end + 63) & ~63) - 64
  }
}

/**
 * The parts worth a search: what lies between blank and zero sectors. No pattern holds a byte FF or 00, so that none
 * begins, ends or goes on there.
 */
type Piece = [from: number, to: number]
function partsInUse(length: number, runs: readonly Run[] | undefined): Piece[] {
  if (!runs) return [[0, length]]
  const parts: Piece[] = []
  let from = 0
  for (const [kind, n] of runs) {
    const to = Math.min(length, from + n * sectorBytes)
    const last = parts.at(-1)
    if (kind !== 'blank' && kind !== 'zero') {
      if (last && last[1] === from) last[1] = to
      else parts.push([from, to])
    }
    from = to
  }
  return parts
}

/** Tells every string that looks like a password or key, those of one kind from left to right. */
export function eachSecret(bytes: Uint8Array, runs: readonly Run[] | undefined, tell: Tell): void {
  const words = wordsOf(bytes)
  const matcher = new Matcher(bytes, tell)
  for (const [from, to] of partsInUse(bytes.length, runs)) {
    searchSeparators(bytes, words, from, to, matcher)
    searchDashes(bytes, from, to, matcher)
    searchHex(bytes, from, to, tell)
  }
}

/**
 * Every string that looks like a password or key: its kind and place, never its content. In order of their places.
 * @param runs the sector map, when there is one: empty sectors are passed over
 */
export function secretPlaces(bytes: Uint8Array, runs?: readonly Run[]): SecretPlace[] {
  const out: SecretPlace[] = []
  eachSecret(bytes, runs, (kind, offset, length) => out.push({ kind, offset, length }))
  return out.sort((a, b) => a.offset - b.offset || secretKinds.indexOf(a.kind) - secretKinds.indexOf(b.kind))
}

/** Counts and places strings that look like passwords or keys. It never returns the strings themselves. */
export function findSecrets(bytes: Uint8Array, runs?: readonly Run[]): SecretsFound {
  const byKind: Record<SecretKind, number> = { named: 0, pem: 0, hex64: 0, urlAuth: 0 }
  const hasOne = new Uint8Array(Math.ceil(bytes.length / sectorBytes))
  let count = 0
  eachSecret(bytes, runs, (kind, offset) => {
    byKind[kind]++
    count++
    hasOne[Math.floor(offset / sectorBytes)] = 1
  })
  return { count, byKind, sectors: [...hasOne.keys()].filter((s) => hasOne[s] === 1) }
}
