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

/** H = −Σ pᵢ log₂ pᵢ over the 256 byte values, in bits per byte. `counts` must add up to `length` (1 … 4096). */
function entropyOf(counts: Uint16Array, length: number): number {
  let sum = 0
  for (let b = 0; b < 256; b++) sum += nLogN[counts[b] as number] as number
  return Math.log2(length) - sum / length
}

/** Entropy of up to 4096 bytes, in bits per byte. */
export function sectorEntropy(bytes: Uint8Array): number {
  const counts = new Uint16Array(256)
  for (const b of bytes) counts[b] = (counts[b] as number) + 1
  return entropyOf(counts, bytes.length)
}

/** The class of bytes from..to (one sector or a short last one): first match wins. `counts` is scratch space of 256. */
function classOf(bytes: Uint8Array, from: number, to: number, counts: Uint16Array): SectorClass {
  const first = bytes[from] as number
  let same = from + 1
  while (same < to && bytes[same] === first) same++
  if (same === to) return first === 0xff ? 'blank' : first === 0 ? 'zero' : 'constant'
  counts.fill(0)
  let text = 0
  for (let i = from; i < to; i++) {
    const b = bytes[i] as number
    counts[b] = (counts[b] as number) + 1
    text += isText[b] as number
  }
  const length = to - from
  if (text >= 0.9 * length) return 'text'
  const h = entropyOf(counts, length)
  return h < 4.5 ? 'low' : h < 7.2 ? 'mid' : 'high'
}

export type Run = [SectorClass, number]

/** Progress of long work; return true to stop. */
export type Tell = (done: number, total: number) => boolean

/** One class per sector, as runs. `tell` hears every 256 KiB; null when it asked to stop. */
export function sectorRuns(bytes: Uint8Array, tell: Tell = () => false): Run[] | null {
  const counts = new Uint16Array(256)
  const runs: Run[] = []
  for (let from = 0; from < bytes.length; from += sectorBytes) {
    if (from % 0x40000 === 0 && tell(from, bytes.length)) return null
    const kind = classOf(bytes, from, Math.min(from + sectorBytes, bytes.length), counts)
    const last = runs.at(-1)
    if (last && last[0] === kind) last[1]++
    else runs.push([kind, 1])
  }
  return runs
}

/** The class of every sector, from runs. */
export const classesOf = (runs: readonly Run[]): SectorClass[] =>
  runs.flatMap(([kind, n]) => Array<SectorClass>(n).fill(kind))
