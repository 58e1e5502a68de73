import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { finding, type PlacedFinding } from '@fresh-coat/core/edge/finding'
import { type Identity, nobody } from '@fresh-coat/core/link/identity'
import { hasDigest, readFlash } from '@fresh-coat/core/link/reading'
import { chipDigest, firstDifference, sampleOf, sectorsOf } from '@fresh-coat/core/link/verify'
import { bytesOption, type Options, wholeOption } from '../options'
import { FileError, UsageError } from '../usage'
import { type Session, session } from './session'

/** Holding a chip against a file, without changing it. */

type Verdict = 'same' | 'different' | 'sampled' | 'unknown'
interface Verified {
  verdict: Verdict
  /** Flash address of the first byte that differs; null where all are equal, or nobody looked byte by byte. */
  firstDifference: number | null
  findings: PlacedFinding<number | null>[]
}
const seeds = { otherwise: 1, least: 0, most: 2 ** 32 - 1 }
const methods = ['digest', 'readback', 'sample'] as const
type Method = (typeof methods)[number]

const say = (at: number | null, ...args: Parameters<typeof finding>): PlacedFinding<number | null> => ({
  ...finding(...args),
  at,
})
const differs = (at: number | null) =>
  say(
    at,
    'link-verify-failed',
    'error',
    at === null ? 'What stands in the chip is not this file.' : `It differs at 0x${at.toString(16)}.`,
    '',
    'Write it again; if it stays so, look at supply and wires.',
  )

async function byDigest({ run, line }: Session, who: Identity, wanted: Uint8Array, offset: number): Promise<Verified> {
  const theirs = await run(chipDigest(line, who, offset, wanted.length))
  if (theirs === null)
    return {
      verdict: 'unknown',
      firstDifference: null,
      findings: [
        say(null, 'link-no-digest', 'error', 'This ROM works out no digest.', '', 'Use --method readback, or sample.'),
      ],
    }
  const same = theirs === createHash('md5').update(wanted).digest('hex')
  return { verdict: same ? 'same' : 'different', firstDifference: null, findings: same ? [] : [differs(null)] }
}

async function read({ run, line }: Session, who: Identity, offset: number, bytes: number): Promise<Uint8Array> {
  const out = new Uint8Array(bytes)
  await run(readFlash(line, who, offset, bytes), { onBytes: (at, part) => out.set(part, at) })
  return out
}

async function byReading(at: Session, who: Identity, wanted: Uint8Array, offset: number): Promise<Verified> {
  const first = firstDifference(await read(at, who, offset, wanted.length), wanted)
  return first === null
    ? { verdict: 'same', firstDifference: null, findings: [] }
    : { verdict: 'different', firstDifference: offset + first, findings: [differs(offset + first)] }
}

async function bySample(
  at: Session,
  who: Identity,
  wanted: Uint8Array,
  offset: number,
  seed: number,
): Promise<Verified> {
  const sectors = sectorsOf(offset, wanted.length)
  const chosen = sampleOf(sectors.length, seed)
  for (const index of chosen) {
    const { at: from, length } = sectors[index] as { at: number; length: number }
    const there = await read(at, who, offset + from, length)
    const first = firstDifference(there, wanted.subarray(from, from + length))
    if (first !== null)
      return {
        verdict: 'different',
        firstDifference: offset + from + first,
        findings: [differs(offset + from + first)],
      }
  }
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

function fileOf(options: Options): Uint8Array {
  const path = options.get('file')
  if (path === undefined) throw new UsageError('--file is missing: what should stand in the chip')
  try {
    return new Uint8Array(readFileSync(path))
  } catch (cause) {
    throw new FileError(`${path} cannot be read: ${cause instanceof Error ? cause.message : String(cause)}`)
  }
}

/** Is what stands in the chip this file? The ROM's digest says so, or reading does. */
export function linkVerify(options: Options): Promise<object> {
  const wanted = fileOf(options)
  if (wanted.length === 0) throw new UsageError('The file is empty')
  const asked = options.get('method')
  if (asked !== undefined && !(methods as readonly string[]).includes(asked))
    throw new UsageError(`--method must be one of ${methods.join(', ')}`)
  const offset = bytesOption(options, 'offset') ?? 0
  const seed = wholeOption(options, 'seed', seeds)
  const none = { verdict: 'unknown', method: asked ?? null, bytes: wanted.length, firstDifference: null }
  const run = async (at: Session) => {
    const found = await at.who()
    const { die: _, ...who } = found
    if (who.family === null) return { ...who, ...none }
    if (who.flashBytes !== null && offset + wanted.length > who.flashBytes)
      throw new UsageError(`${wanted.length} bytes at ${offset} do not lie within the chip of ${who.flashBytes}`)
    const method: Method = (asked as Method | undefined) ?? (hasDigest(who.family) ? 'digest' : 'readback')
    const identity = { ...found, flashBytes: who.flashBytes ?? offset + wanted.length }
    const by = { digest: byDigest, readback: byReading, sample: bySample }[method]
    const verified = await by(at, identity, wanted, offset, seed)
    return { ...who, ...none, ...verified, method, findings: [...who.findings, ...verified.findings] }
  }
  return session(options, () => ({ ...nobody, ...none }), run)
}
