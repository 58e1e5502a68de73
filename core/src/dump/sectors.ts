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

const isText = (() => {
  const table = new Uint8Array(256)
  for (let b = 0x20; b <= 0x7e; b++) table[b] = 1
  table[9] = 1
  table[10] = 1
  table[13] = 1
  return table
})()

interface Tally {
  /** H = −Σ pᵢ log₂ pᵢ over the 256 byte values, in bits per byte. */
  entropy: number
  /** How many bytes are 09, 0A, 0D or 20–7E. */
  text: number
}

/** The counts stand in four tables of 256 that are added; together they make `length` (1 … 4096). */
function tallyOf(counts: Int32Array, length: number): Tally {
  let sum = 0
  let text = 0
  for (let b = 0; b < 256; b++) {
    const n =
      (counts[b] as number) + (counts[256 + b] as number) + (counts[512 + b] as number) + (counts[768 + b] as number)
    sum += nLogN[n] as number
    text += n * (isText[b] as number)
  }
  return { entropy: Math.log2(length) - sum / length, text }
}

/**
 * Counts every byte value of from..to. Four tables in turn: two equal bytes after each other would wait for each other's
 * count in one table, and flash is full of equal bytes. By words where there are any: one load for four bytes.
 */
function countBytes(bytes: Uint8Array, words: Int32Array | null, from: number, to: number, counts: Int32Array): void {
  counts.fill(0)
  let i = from
  if (words) {
    const end = to >> 2
    for (let w = from >> 2; w < end; w++) {
      const four = words[w] as number
      const a = four & 255
      const b = 256 + ((four >>> 8) & 255)
      const c = 512 + ((four >>> 16) & 255)
      const d = 768 + (four >>> 24)
      counts[a] = ((counts[a] as number) + 1) | 0
      counts[b] = ((counts[b] as number) + 1) | 0
      counts[c] = ((counts[c] as number) + 1) | 0
      counts[d] = ((counts[d] as number) + 1) | 0
    }
    i = end << 2
  }
  for (; i < to; i++) counts[bytes[i] as number] = (counts[bytes[i] as number] as number) + 1
}

/** Entropy of up to 4096 bytes, in bits per byte. */
export function sectorEntropy(bytes: Uint8Array): number {
  const counts = new Int32Array(1024)
  countBytes(bytes, null, 0, bytes.length, counts)
  return tallyOf(counts, bytes.length).entropy
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

/** The class of bytes from..to (one sector or a short last one): first match wins. `counts` is scratch space of 4 × 256. */
function classOf(
  bytes: Uint8Array,
  words: Int32Array | null,
  from: number,
  to: number,
  counts: Int32Array,
): SectorClass {
  const first = bytes[from] as number
  if (allSame(bytes, words, from, to)) return first === 0xff ? 'blank' : first === 0 ? 'zero' : 'constant'
  countBytes(bytes, words, from, to, counts)
  const { entropy, text } = tallyOf(counts, to - from)
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
  const counts = new Int32Array(1024)
  const words = wordsOf(bytes)
  const runs: Run[] = []
  let from = 0
  const advance = (to: number) => {
    while (from + sectorBytes <= to || (to >= bytes.length && from < bytes.length)) {
      const kind = classOf(bytes, words, from, Math.min(from + sectorBytes, bytes.length), counts)
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
