/** What a sector holds, in the order in which the classes are tried. */
export const sectorClasses = ['blank', 'zero', 'constant', 'text', 'low', 'mid', 'high'] as const
export type SectorClass = (typeof sectorClasses)[number]
export const sectorBytes = 4096

/** −n·log2 n for every count a sector can have, so that the entropy of a sector is a sum of look-ups. */
const nLogN = (() => {
  const table = new Float64Array(sectorBytes + 1)
  for (let n = 1; n <= sectorBytes; n++) table[n] = n * Math.log2(n)
  return table
})()

interface Tally {
  /** H = −Σ pᵢ log₂ pᵢ over the 256 byte values, in bits per byte. */
  entropy: number
  /** How many bytes are 09, 0A, 0D or 20–7E. */
  text: number
}

/**
 * How often each byte value was seen, one table for each place in a word: two equal bytes after each other would wait for each other's
 * count in one table, and flash is full of equal bytes. They are made once and for good: engines know then that no byte lies outside, and
 * count as quickly as compiled code. Nothing waits between a count and what is made of it, so nobody else's count gets in between.
 */
const seen0 = new Int32Array(256)
const seen1 = new Int32Array(256)
const seen2 = new Int32Array(256)
const seen3 = new Int32Array(256)

const up = (seen: Int32Array, byte: number): void => {
  seen[byte] = (seen[byte] as number) + 1
}

/** Counts every byte value of from..to, by words where there are any: one load for four bytes. */
function countBytes(bytes: Uint8Array, words: Int32Array | null, from: number, to: number): void {
  seen0.fill(0)
  seen1.fill(0)
  seen2.fill(0)
  seen3.fill(0)
  let i = from
  if (words) {
    const end = to >> 2
    for (let w = from >> 2; w < end; w++) {
      const four = words[w] as number
      up(seen0, four & 255)
      up(seen1, (four >>> 8) & 255)
      up(seen2, (four >>> 16) & 255)
      up(seen3, four >>> 24)
    }
    i = end << 2
  }
  for (; i < to; i++) up(seen0, bytes[i] as number)
}

const seen = (b: number): number =>
  ((seen0[b] as number) + (seen1[b] as number) + (seen2[b] as number) + (seen3[b] as number)) | 0

/** What was counted of `length` bytes (1 … 4096). */
function tallied(length: number): Tally {
  let sum = 0
  for (let b = 0; b < 256; b++) sum += nLogN[seen(b)] as number
  let text = seen(9) + seen(10) + seen(13)
  for (let b = 0x20; b <= 0x7e; b++) text += seen(b)
  return { entropy: Math.log2(length) - sum / length, text }
}

/** Entropy of up to 4096 bytes, in bits per byte. */
export function sectorEntropy(bytes: Uint8Array): number {
  countBytes(bytes, null, 0, bytes.length)
  return tallied(bytes.length).entropy
}

/** Is every byte of from..to the same? Compared by words where the file lies on a word boundary. */
function allSame(bytes: Uint8Array, words: Int32Array | null, from: number, to: number): boolean {
  const first = bytes[from] as number
  if (bytes[to - 1] !== first || bytes[from + 1] !== first) return to - from === 1
  if (words && (to - from) % 4 === 0) {
    const word = (first * 0x01010101) | 0
    for (let i = from >> 2; i < to >> 2; i++) if (words[i] !== word) return false
    return true
  }
  for (let i = from; i < to; i++) if (bytes[i] !== first) return false
  return true
}

/** The whole file as signed words (engines add those without leaving integers), or null off a word boundary. */
export const wordsOf = (bytes: Uint8Array): Int32Array | null =>
  bytes.byteOffset % 4 === 0 ? new Int32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2) : null

/** The class of bytes from..to (one sector or a short last one): first match wins. */
function classOf(bytes: Uint8Array, words: Int32Array | null, from: number, to: number): SectorClass {
  const first = bytes[from] as number
  if (allSame(bytes, words, from, to)) return first === 0xff ? 'blank' : first === 0 ? 'zero' : 'constant'
  countBytes(bytes, words, from, to)
  const { entropy, text } = tallied(to - from)
  if (text >= 0.9 * (to - from)) return 'text'
  return entropy < 4.5 ? 'low' : entropy < 7.2 ? 'mid' : 'high'
}

export type Run = [SectorClass, number]

export interface SectorMapper {
  /** One class per sector looked at so far, as runs. */
  runs: Run[]
  /** Looks at every sector that is whole below `to`; at the end of the file also at a short last one. */
  advance: (to: number) => void
}

/** The sector map of a file that may still be arriving: `bytes` has its full length, and is filled from 0 upwards. */
export function sectorMapper(bytes: Uint8Array): SectorMapper {
  const words = wordsOf(bytes)
  const runs: Run[] = []
  let from = 0
  const advance = (to: number) => {
    while (from + sectorBytes <= to || (to >= bytes.length && from < bytes.length)) {
      const kind = classOf(bytes, words, from, Math.min(from + sectorBytes, bytes.length))
      const last = runs.at(-1)
      if (last && last[0] === kind) last[1]++
      else runs.push([kind, 1])
      from += sectorBytes
    }
  }
  return { runs, advance }
}

/** One class per sector, as runs. */
export function sectorRuns(bytes: Uint8Array): Run[] {
  const map = sectorMapper(bytes)
  map.advance(bytes.length)
  return map.runs
}

/** The class of every sector, from runs. */
export const classesOf = (runs: readonly Run[]): SectorClass[] =>
  runs.flatMap(([kind, n]) => Array<SectorClass>(n).fill(kind))
