import { hexNumber } from '../bytes/text'
import { settingsSectorsAtEnd } from '../families/families'
import { at, type FileFinding } from '../image/image'
import { selfWritingRoles } from '../image/partitions'
import { structureOf } from '../image/structure'
import { sectorBytes } from './sectors'

export type CompareVerdict = 'same' | 'unit-ran-between' | 'bad-contact' | 'different'

export interface DumpComparison {
  verdict: CompareVerdict
  comparedBytes: number
  sectors: number
  differingBytes: number
  differingSectors: number[]
  ranges: { offset: number; length: number }[]
  /** Bits that were 1 in the first and 0 in the second, and the reverse. */
  bitsLost: number
  bitsGained: number
  findings: FileFinding[]
}

const onesInByte = (() => {
  const table = new Uint8Array(256)
  for (let b = 1; b < 256; b++) table[b] = (table[b >> 1] as number) + (b & 1)
  return table
})()

/** Sectors that a running firmware writes by itself, by the layout found in the bytes. */
function selfWritten(bytes: Uint8Array): (sector: number) => boolean {
  const found = structureOf(bytes, { flashBytes: bytes.length, loaderAnywhereBelow: true })
  const firstOfLast = Math.floor(bytes.length / sectorBytes) - settingsSectorsAtEnd(found?.family)
  const areas = (found?.partitions?.entries ?? []).filter((p) => selfWritingRoles.has(p.role))
  return (sector) => {
    const offset = sector * sectorBytes
    if (sector >= firstOfLast) return true
    return areas.some((p) => offset >= p.offset && offset < p.offset + p.length)
  }
}

function verdictFinding(c: Omit<DumpComparison, 'findings'>, lengths: [number, number]): FileFinding {
  const [a, b] = lengths
  const where = c.ranges
    .slice(0, 3)
    .map((r) => hexNumber(r.offset))
    .join(', ')
  const some = `${c.differingSectors.length} of ${c.sectors} sectors differ at ${where}.`
  const oneWay = c.differingBytes > 0 && (c.bitsLost === 0 || c.bitsGained === 0)
  const bits = `${c.bitsLost} bits lost, ${c.bitsGained} gained${oneWay ? ': one weak line' : ''}.`
  if (a !== b)
    return at(
      Math.min(a, b),
      'dump-sizes-differ',
      'error',
      `One read has ${a} bytes, the other ${b}.`,
      '',
      'Read the whole chip twice at the same size.',
    )
  if (c.verdict === 'same')
    return at(null, 'dumps-same', 'ok', 'The two reads are equal, byte for byte.', `${c.comparedBytes} bytes.`)
  const first = c.ranges[0]?.offset ?? null
  if (c.verdict === 'unit-ran-between')
    return at(
      first,
      'unit-ran-between',
      'watch',
      some,
      'All of them are areas that the firmware writes by itself: the unit started between the reads.',
      'Keep it in download mode and read both times again.',
    )
  if (c.verdict === 'bad-contact')
    return at(
      first,
      'bad-contact',
      'error',
      some,
      bits,
      'Hold the wires, lower the baud rate and read again. Bytes of two reads are never mixed.',
    )
  return at(
    first,
    'dumps-different',
    'error',
    some,
    bits,
    'Not the same chip, or a wrong setting: check both and read again.',
  )
}

/** Compares two reads sector by sector and says what a difference means. */
export function compareDumps(a: Uint8Array, b: Uint8Array): DumpComparison {
  const comparedBytes = Math.min(a.length, b.length)
  const sectors = Math.ceil(comparedBytes / sectorBytes)
  const differingSectors: number[] = []
  const ranges: { offset: number; length: number }[] = []
  let differingBytes = 0
  let bitsLost = 0
  let bitsGained = 0
  for (let s = 0; s < sectors; s++) {
    const from = s * sectorBytes
    const to = Math.min(from + sectorBytes, comparedBytes)
    const before = differingBytes
    for (let i = from; i < to; i++) {
      const x = a[i] as number
      const y = b[i] as number
      if (x === y) continue
      differingBytes++
      bitsLost += onesInByte[x & ~y & 0xff] as number
      bitsGained += onesInByte[y & ~x & 0xff] as number
    }
    if (differingBytes === before) continue
    differingSectors.push(s)
    const last = ranges.at(-1)
    if (last && last.offset + last.length === from) last.length += to - from
    else ranges.push({ offset: from, length: to - from })
  }
  let verdict: CompareVerdict
  if (a.length !== b.length) verdict = 'different'
  else if (differingSectors.length === 0) verdict = 'same'
  else if (differingSectors.every(selfWritten(a))) verdict = 'unit-ran-between'
  else verdict = differingSectors.length <= 0.25 * sectors ? 'bad-contact' : 'different'
  const result = { verdict, comparedBytes, sectors, differingBytes, differingSectors, ranges, bitsLost, bitsGained }
  return { ...result, findings: [verdictFinding(result, [a.length, b.length])] }
}

/** Two reads of one hash are equal without being read again. */
export function equalByHash(bytes: number): DumpComparison {
  const result = {
    verdict: 'same' as const,
    comparedBytes: bytes,
    sectors: Math.ceil(bytes / sectorBytes),
    differingBytes: 0,
    differingSectors: [],
    ranges: [],
    bitsLost: 0,
    bitsGained: 0,
  }
  return { ...result, findings: [verdictFinding(result, [bytes, bytes])] }
}
