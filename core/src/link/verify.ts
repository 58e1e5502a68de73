import { md5Hex } from '../bytes/digests'
import { hexNumber } from '../bytes/text'
import { finding } from '../edge/finding'
import { digestOf } from './answers'
import { sectorBytes } from './erase'
import { type Flow, type Line, type LinkFinding, mayGoOn, show } from './flow'
import { ask, type Identity, request } from './identity'
import { hasDigest, readerOf, ready, spanInOneGo } from './reading'

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

export const proofMethods = ['digest', 'readback', 'sample'] as const
export type ProofMethod = (typeof proofMethods)[number]

export interface Proof {
  verdict: 'same' | 'different' | 'sampled' | 'unknown'
  /** Flash address of the first byte that differs; null where all are equal, or nobody looked byte by byte. */
  firstDifference: number | null
  findings: LinkFinding[]
}

const say = (at: number | null, ...args: Parameters<typeof finding>): LinkFinding => ({ ...finding(...args), at })

export const noDigest = (): LinkFinding =>
  say(null, 'link-no-digest', 'error', 'This ROM works out no digest.', '', 'Choose readback, or sample.')

const same: Proof = { verdict: 'same', firstDifference: null, findings: [] }
const different = (at: number | null): Proof => ({
  verdict: 'different',
  firstDifference: at,
  findings: [
    say(
      at,
      'link-verify-failed',
      'error',
      at === null ? 'What stands in the chip is not this file.' : `It differs at ${hexNumber(at)}.`,
      '',
      'Write it again; if it stays so, look at supply and wires.',
    ),
  ],
})

const stopped: Proof = {
  verdict: 'unknown',
  firstDifference: null,
  findings: [
    say(
      null,
      'link-cancelled',
      'watch',
      'Stopped while it was compared: it stays unproven.',
      '',
      'Have it compared again.',
    ),
  ],
}

function* byDigest(line: Line, who: Identity, offset: number, wanted: Uint8Array): Flow<Proof> {
  const theirs = yield* chipDigest(line, who, offset, wanted.length)
  if (theirs === null) return { verdict: 'unknown', firstDifference: null, findings: [noDigest()] }
  return theirs === md5Hex(wanted) ? same : different(null)
}

/** Reads these sectors, until one differs. */
function* byReading(
  line: Line,
  who: Identity,
  offset: number,
  wanted: Uint8Array,
  sectors: readonly { at: number; length: number }[],
): Flow<Proof> {
  const reader = readerOf(line, who)
  yield* show('verifying')
  yield* ready(reader)
  for (const { at, length } of sectors) {
    if (!(yield* mayGoOn())) return stopped
    const first = firstDifference(yield* spanInOneGo(reader, offset + at, length), wanted.subarray(at, at + length))
    if (first !== null) return different(offset + at + first)
  }
  return same
}

function* bySample(line: Line, who: Identity, offset: number, wanted: Uint8Array, seed: number): Flow<Proof> {
  const sectors = sectorsOf(offset, wanted.length)
  const chosen = sampleOf(sectors.length, seed).map((i) => sectors[i] as { at: number; length: number })
  const proof = yield* byReading(line, who, offset, wanted, chosen)
  if (proof.verdict !== 'same') return proof
  return {
    verdict: 'sampled',
    firstDifference: null,
    findings: [
      say(
        null,
        'link-sampled',
        'watch',
        `${chosen.length} of ${sectors.length} sectors were read, and are equal.`,
        `A single bad sector would have been met with a chance of ${Math.round((100 * chosen.length) / sectors.length)} %.`,
        'Read it all back where it matters.',
      ),
    ],
  }
}

/**
 * Is what stands in the chip from `offset` on what is wanted? By the ROM's own digest, by reading all of it, or a part.
 * @param seed of the sample
 */
export function proofOf(
  line: Line,
  who: Identity,
  offset: number,
  wanted: Uint8Array,
  method: ProofMethod,
  seed: number,
): Flow<Proof> {
  if (method === 'digest') return byDigest(line, who, offset, wanted)
  if (method === 'sample') return bySample(line, who, offset, wanted, seed)
  return byReading(line, who, offset, wanted, sectorsOf(offset, wanted.length))
}
