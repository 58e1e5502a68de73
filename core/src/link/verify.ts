import { digestOf } from './answers'
import { sectorBytes } from './erase'
import { type Flow, type Line, show } from './flow'
import { ask, type Identity, request } from './identity'
import { hasDigest, readerOf, ready } from './reading'

/** Is what stands in the chip what was to be written: by the ROM's own digest, or by reading (brief 06 §5). */

const digestMs = 3000
const digestMsPerMiB = 8000

/** MD5 of a span of the chip as its ROM works it out; null where it refuses, or has none. */
export function* chipDigest(line: Line, who: Identity, offset: number, bytes: number): Flow<string | null> {
  const reader = readerOf(line, who)
  if (!hasDigest(reader.found.family)) return null
  yield* show('verifying')
  yield* ready(reader)
  const within = digestMs + (digestMsPerMiB * bytes) / 1_048_576
  const answer = yield* ask(line, request('flash-digest', offset, bytes, 0, 0), within)
  return answer.status.failed ? null : digestOf(answer)
}

/** Sectors of a span, each with its place in the span and its length. */
export function sectorsOf(offset: number, bytes: number): { at: number; length: number }[] {
  const out: { at: number; length: number }[] = []
  for (let at = 0; at < bytes; ) {
    const length = Math.min(sectorBytes - ((offset + at) % sectorBytes), bytes - at)
    out.push({ at, length })
    at += length
  }
  return out
}

const sampledShare = 0.1

/** Which of `count` sectors are looked at: the first, the last, and others by a fixed seed; a tenth of them, two at least. */
export function sampleOf(count: number, seed: number): number[] {
  const wanted = Math.min(count, Math.max(2, Math.round(count * sampledShare)))
  const taken = new Set([0, count - 1])
  let state = seed >>> 0
  while (taken.size < wanted) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    taken.add(Math.floor((state / 2 ** 32) * count))
  }
  return [...taken].sort((a, b) => a - b)
}

/** Place of the first byte that differs; null where all are equal. */
export function firstDifference(a: Uint8Array, b: Uint8Array): number | null {
  for (let i = 0; i < Math.max(a.length, b.length); i++) if (a[i] !== b[i]) return i
  return null
}
