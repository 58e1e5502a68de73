import { latin1 } from '../bytes/text'
import { type Run, sectorBytes, wordsOf } from './sectors'

export const secretKinds = ['named', 'pem', 'hex64', 'urlAuth'] as const
export type SecretKind = (typeof secretKinds)[number]

const patterns: Record<SecretKind, RegExp> = {
  named:
    /(?:ssid|psk|passphrase|password|passwd|pass|secret|token|api_?key)["']?[ \t]*[=:][ \t]*["']?[!#-&(-+\--:<-~]{4,64}/gi,
  pem: /-----BEGIN [A-Z0-9 ]+-----/g,
  hex64: /(?<![0-9A-Fa-f])[0-9A-Fa-f]{64}(?![0-9A-Fa-f])/g,
  urlAuth: /[a-z][a-z0-9+.-]{1,15}:\/\/[!-.0-9;-?A-~]{1,64}:[!-.0-9;-?A-~]{1,64}@/g,
}

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

/** What each pattern may reach to the left and right of the byte that gives it away. */
const reach = 160
const letterPairs = new Set(
  ['id', 'sk', 'se', 'rd', 'wd', 'ss', 'et', 'en', 'ey'].map((pair) => (pair.charCodeAt(0) << 8) | pair.charCodeAt(1)),
)
/** What can stand right before a separator of a named value: the last letter of a word, a quote, a blank. */
const mayPrecede = (() => {
  const table = new Uint8Array(256)
  for (const c of 'dkestnyDKESTNY"\' \t') table[c.charCodeAt(0)] = 1
  return table
})()
const isHexDigit = (() => {
  const table = new Uint8Array(256)
  for (const c of '0123456789abcdefABCDEF') table[c.charCodeAt(0)] = 1
  return table
})()
const lower = (b: number) => (b >= 0x41 && b <= 0x5a ? b + 32 : b)
const isBlank = (b: number | undefined) => b === 0x20 || b === 0x09

/** Does the separator at `i` (= or :) stand behind one of the words, with a quote or blanks between? */
function behindWord(bytes: Uint8Array, i: number): boolean {
  let p = i - 1
  while (p >= 0 && isBlank(bytes[p])) p--
  if (bytes[p] === 0x22 || bytes[p] === 0x27) p--
  if (p < 1) return false
  return letterPairs.has((lower(bytes[p - 1] as number) << 8) | lower(bytes[p] as number))
}

/** Wide enough for a whole match: blanks between word, separator and value have no limit of their own. */
function aroundSeparator(bytes: Uint8Array, i: number): [number, number] {
  let from = i
  while (from > 0 && isBlank(bytes[from - 1])) from--
  let to = i + 1
  while (to < bytes.length && isBlank(bytes[to])) to++
  return [Math.max(0, from - reach), Math.min(bytes.length, to + reach)]
}

type Piece = [from: number, to: number]

/** Separators that may belong to a named value or an address, each with room for the whole match. */
function lookAtSeparator(bytes: Uint8Array, i: number, found: Piece[]): void {
  if (bytes[i] === 0x3a && bytes[i + 1] === 0x2f && bytes[i + 2] === 0x2f)
    found.push([Math.max(0, i - reach), Math.min(bytes.length, i + reach)])
  if (mayPrecede[bytes[i - 1] as number] === 1 && behindWord(bytes, i)) found.push(aroundSeparator(bytes, i))
}

// The searches below are functions of their own, without inner ones: engines keep their loops in registers only then.

/** Every ":" and "=" of from..to. Four bytes at a time: a word that holds neither is passed over by arithmetic alone. */
function searchSeparators(bytes: Uint8Array, words: Int32Array | null, from: number, to: number, found: Piece[]): void {
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
        if (b === 0x3a || b === 0x3d) lookAtSeparator(bytes, k, found)
      }
    }
    i = end << 2
  }
  for (; i < to; i++) if (bytes[i] === 0x3a || bytes[i] === 0x3d) lookAtSeparator(bytes, i, found)
}

/** Five dashes hold one at every fifth place. A run is looked at once, or a file of dashes would never end. */
function searchDashes(bytes: Uint8Array, from: number, to: number, found: Piece[]): void {
  for (let i = Math.ceil(from / 5) * 5; i < to; i += 5) {
    if (bytes[i] !== 0x2d) continue
    let end = i
    while (bytes[end] === 0x2d) end++
    i = (((end + 4) / 5) | 0) * 5 - 5
    if (bytes[end] !== 0x42 || bytes[end + 1] !== 0x45) continue
    // "BEGIN", then letters, digits and blanks without a limit.
    let last = end
    while (last < bytes.length && bytes[last] !== 0x2d) last++
    found.push([Math.max(0, end - 5), Math.min(bytes.length, last + 5)])
  }
}

/** 64 hex digits hold one at every 64th place. */
function searchHex(bytes: Uint8Array, from: number, to: number, found: Piece[]): void {
  for (let i = Math.ceil(from / 64) * 64; i < to; i += 64) {
    if (isHexDigit[bytes[i] as number] === 0) continue
    let first = i
    while (first > 0 && isHexDigit[bytes[first - 1] as number] === 1) first--
    let end = i
    while (end < bytes.length && isHexDigit[bytes[end] as number] === 1) end++
    if (end - first === 64) found.push([Math.max(0, first - 1), Math.min(bytes.length, end + 1)])
    if (end > i) i = ((end + 63) & ~63) - 64
  }
}

/**
 * The parts worth a search: what lies between blank and zero sectors. No pattern holds a byte FF or 00, so that none
 * begins, ends or goes on there.
 */
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

/**
 * Where a match of any pattern could be, as pieces that do not touch: a few bytes give each pattern away, and looking for
 * them is much quicker than four patterns over 16 MiB of text. Every match lies inside one piece as a whole.
 */
function candidatePieces(bytes: Uint8Array, runs: readonly Run[] | undefined): Piece[] {
  const found: Piece[] = []
  const words = wordsOf(bytes)
  for (const [from, to] of partsInUse(bytes.length, runs)) {
    searchSeparators(bytes, words, from, to, found)
    searchDashes(bytes, from, to, found)
    searchHex(bytes, from, to, found)
  }
  found.sort((a, b) => a[0] - b[0])
  const merged: Piece[] = []
  for (const [from, to] of found) {
    const last = merged.at(-1)
    if (last && from <= last[1]) last[1] = Math.max(last[1], to)
    else merged.push([from, to])
  }
  return merged
}

/**
 * Every string that looks like a password or key: its kind and place, never its content. In order of their places.
 * @param runs the sector map, when there is one: empty sectors are passed over
 */
export function secretPlaces(bytes: Uint8Array, runs?: readonly Run[]): SecretPlace[] {
  const out: SecretPlace[] = []
  for (const [from, to] of candidatePieces(bytes, runs)) {
    const text = latin1(bytes.subarray(from, to))
    for (const kind of secretKinds)
      for (const match of text.matchAll(patterns[kind]))
        out.push({ kind, offset: from + match.index, length: match[0].length })
  }
  return out.sort((a, b) => a.offset - b.offset || secretKinds.indexOf(a.kind) - secretKinds.indexOf(b.kind))
}

/** Counts and places strings that look like passwords or keys. It never returns the strings themselves. */
export function findSecrets(bytes: Uint8Array, runs?: readonly Run[]): SecretsFound {
  const byKind: Record<SecretKind, number> = { named: 0, pem: 0, hex64: 0, urlAuth: 0 }
  const places = secretPlaces(bytes, runs)
  for (const { kind } of places) byKind[kind]++
  return {
    count: places.length,
    byKind,
    sectors: [...new Set(places.map((p) => Math.floor(p.offset / sectorBytes)))].sort((a, b) => a - b),
  }
}
