import { hexNumber } from '../bytes/text'
import { finding, hasError } from '../edge/finding'
import { type Family, factsOf } from '../families/families'
import { eraseOf, sectorBytes } from './erase'
import { type Flow, type Line, type LinkFinding, mayGoOn } from './flow'
import { type Identity, OtherUnit, Refused, refused, Silent } from './identity'
import { settledLine } from './line-test'
import { hasDigest } from './reading'
import { chipDigest, noDigest, type ProofMethod, proofOf } from './verify'
import { type BlockCounts, eraseWhole, noBlocks, type ResumeFrom, type WriteEnd, writeRegion } from './writing'

/**
 * A write from the first look at the chip to its proof: only the unit of the record, only over a line that holds, with what lies
 * beside it looked at before and after (brief 06 §5).
 */
export type VerifyMethod = ProofMethod | 'none'

/** What the record says of the unit; null where it says nothing. */
export interface ExpectedUnit {
  family: Family | null
  mac: string | null
  flashId: string | null
  flashBytes: number | null
}

export interface WholeWrite {
  offset: number
  data: Uint8Array
  eraseAll: boolean
  verify: VerifyMethod
  /** Of the sample. */
  seed: number
  /** This side can change its rate. */
  mayChangeRate: boolean
  /** Where an earlier write had come to; null to begin. */
  resume: ResumeFrom | null
}

export type WriteOutcome = 'done' | 'refused' | 'no-answer' | 'lost-midway' | 'verify-failed' | 'cancelled'
export interface WrittenRegion {
  offset: number
  bytes: number
  sizeField: number
  erasedBytes: number
}
export interface WholeWritten {
  outcome: WriteOutcome
  regions: WrittenRegion[]
  blocks: BlockCounts
  verify: { method: VerifyMethod; ok: boolean | null }
  findings: LinkFinding[]
}

export const nothingWritten = (method: VerifyMethod): WholeWritten => ({
  outcome: 'refused',
  regions: [],
  blocks: noBlocks(),
  verify: { method, ok: null },
  findings: [],
})

const say = (at: number | null, ...args: Parameters<typeof finding>): LinkFinding => ({ ...finding(...args), at })

/** What the chip says against what the record says: one of them is not of this unit, and nothing is erased. */
export function unitFindings(expected: ExpectedUnit, who: Identity): LinkFinding[] {
  const out: LinkFinding[] = []
  const differs = (code: string, message: string) =>
    out.push(
      say(
        null,
        code,
        'error',
        message,
        'The record and the chip speak of two units.',
        'Look which unit is on the wires; nothing was erased.',
      ),
    )
  if (expected.family !== null && who.family !== null && expected.family !== who.family)
    differs('family-mismatch', `The record says ${expected.family}, the chip is ${who.family}.`)
  if (expected.mac !== null && who.mac !== null && expected.mac.toLowerCase() !== who.mac.toLowerCase())
    differs('link-other-unit', `The record has the address ${expected.mac.toLowerCase()}, the chip ${who.mac}.`)
  if (expected.flashId !== null && who.flashId !== null && expected.flashId.toLowerCase() !== who.flashId)
    differs('flash-id-mismatch', `The record has the flash ${expected.flashId.toLowerCase()}, the chip ${who.flashId}.`)
  else if (expected.flashBytes !== null && who.flashBytes !== null && expected.flashBytes !== who.flashBytes)
    differs('flash-id-mismatch', `The record has ${expected.flashBytes} bytes of flash, the chip ${who.flashBytes}.`)
  return out
}

/** The region as it will be told, and what will be gone: with the sector that goes along. */
export function regionOf(who: Identity, offset: number, bytes: number): WrittenRegion {
  const rule = (who.family && factsOf(who.family).link?.erase) || 'as-told'
  const { told, erased } = eraseOf(rule, offset / sectorBytes, Math.ceil(bytes / sectorBytes))
  return { offset, bytes, sizeField: told * sectorBytes, erasedBytes: erased * sectorBytes }
}

/** Names the sector that the ROM will take along, before anything is erased. */
export function erasesMore(who: Identity, offset: number, bytes: number): LinkFinding | null {
  const { erasedBytes } = regionOf(who, offset, bytes)
  const wanted = Math.ceil(bytes / sectorBytes) * sectorBytes
  if (erasedBytes === wanted) return null
  const behind = offset + wanted
  const at = who.flashBytes !== null && behind >= who.flashBytes ? offset - sectorBytes : behind
  return say(
    at,
    'link-erases-more',
    'watch',
    `The ROM erases in pairs here: the sector at ${hexNumber(at)} is read first and written back with the rest.`,
  )
}

interface Outside {
  offset: number
  bytes: number
  digest: string
}

/** Digests of what lies before and behind: a damaged request would erase there. */
function* outsideOf(line: Line, who: Identity, write: WholeWrite): Flow<Outside[]> {
  if (write.eraseAll || who.family === null || who.flashBytes === null || !hasDigest(who.family)) return []
  const until = Math.ceil((write.offset + write.data.length) / sectorBytes) * sectorBytes
  const spans = [
    { offset: 0, bytes: write.offset },
    { offset: until, bytes: who.flashBytes - until },
  ].filter((s) => s.bytes > 0)
  const out: Outside[] = []
  for (const span of spans) {
    const digest = yield* chipDigest(line, who, span.offset, span.bytes)
    if (digest !== null) out.push({ ...span, digest })
  }
  return out
}

function* outsideChanged(line: Line, who: Identity, before: readonly Outside[]): Flow<LinkFinding[]> {
  const out: LinkFinding[] = []
  for (const { offset, bytes, digest } of before)
    if ((yield* chipDigest(line, who, offset, bytes)) !== digest)
      out.push(
        say(
          offset,
          'link-outside-changed',
          'error',
          `What lies beside it has changed, between ${hexNumber(offset)} and ${hexNumber(offset + bytes)}.`,
          'A request was damaged on its way, and erased elsewhere.',
          'Put the backup of the whole chip back.',
        ),
      )
  return out
}

export const half = (end: Extract<WriteEnd, { at: number }>): LinkFinding => {
  const place = `Half written at ${hexNumber(end.at)}.`
  const next = 'Bring it into its loader again, and go on with the journal.'
  if (end.outcome === 'cancelled')
    return say(end.at, 'link-cancelled', 'watch', `Stopped between two blocks. ${place}`, '', next)
  if (end.outcome === 'block-refused')
    return say(
      end.at,
      'link-block-refused',
      'error',
      `The chip took the block at no try. ${place}`,
      'Not erased, a weak cell, or a weak supply.',
      'Look at the supply; then go on with the journal.',
    )
  return say(
    end.at,
    'link-lost-midway',
    'error',
    `The chip was lost. ${place}`,
    'Its loader is in ROM and cannot be lost.',
    next,
  )
}

/** The verdict of a proof as a write reports it: a sample is no proof of the whole, and says so itself. */
const okBy = { same: true, sampled: true, different: false, unknown: null } as const

function* proven(line: Line, who: Identity, write: WholeWrite): Flow<{ ok: boolean | null; findings: LinkFinding[] }> {
  if (write.verify === 'none')
    return {
      ok: null,
      findings: [
        say(
          null,
          'link-verify-none',
          'watch',
          'Written, not checked.',
          'The ROM compared a sum of 8 bits for each block, and that was all.',
          'Have it verified.',
        ),
      ],
    }
  const { verdict, findings } = yield* proofOf(line, who, write.offset, write.data, write.verify, write.seed)
  return { ok: okBy[verdict], findings }
}

/** What speaks against it before the line is tested. */
function against(who: Identity, expected: ExpectedUnit, verify: VerifyMethod): LinkFinding[] {
  const found = unitFindings(expected, who)
  if (who.family !== null && who.flashBytes === null)
    found.push(
      say(
        null,
        'flash-id-mismatch',
        'error',
        'The flash does not say what it is.',
        'Without its size nobody knows where a write would wrap.',
        'Look at supply and wires; nothing was erased.',
      ),
    )
  if (verify === 'digest' && who.family && !hasDigest(who.family)) found.push(noDigest())
  return found
}

const restartedTimes = (times: number): LinkFinding =>
  say(
    null,
    'link-restarted',
    'watch',
    times === 1 ? 'It was lost once, and found again.' : `It was lost ${times} times, and found again.`,
    'A weak supply or a loose wire looks like this.',
    'Look at both before the next one.',
  )

/** Everything up to the erase: false where it ends there, and `out` says why. */
function* mayErase(line: Line, who: Identity, write: WholeWrite, out: WholeWritten): Flow<boolean> {
  if (who.family === null || who.flashBytes === null || hasError(out.findings)) return false
  const { holds, finding: noise } = yield* settledLine(line, who, write.mayChangeRate)
  if (noise) out.findings.push(noise)
  if (!holds) return false
  const more = erasesMore(who, write.offset, write.data.length)
  if (more) out.findings.push(more)
  return true
}

/** Writes all of it until it is proven, or ends; `out` tells how far it came. */
function* writtenAndProven(line: Line, who: Identity, write: WholeWrite, out: WholeWritten): Flow<void> {
  const { offset, data } = write
  for (let from = write.resume; ; from = null) {
    // Nothing confirmed yet: whether the erase came to its end, nobody knows.
    if (write.eraseAll && (from === null || from.confirmedBlocks === 0)) {
      // The journal first: from here on the chip may be half written.
      yield { do: 'note', note: { offset, bytes: data.length, confirmedBlocks: 0, carried: null } }
      if (!(yield* eraseWhole(line, who))) {
        out.findings.push(half({ outcome: 'lost-midway', at: 0 }))
        return
      }
    }
    const end = yield* writeRegion(line, who, { offset, data }, from ?? undefined, out.blocks)
    if (end.outcome !== 'written') {
      out.outcome = end.outcome === 'block-refused' ? 'verify-failed' : end.outcome
      out.findings.push(half(end))
      return
    }
    const { ok, findings } = yield* proven(line, who, write)
    // Gone on with, and it differs: all of it is written once more.
    if (ok === false && from !== null) continue
    out.verify.ok = ok
    out.outcome = ok === false || hasError(findings) ? 'verify-failed' : 'done'
    out.findings.push(...findings)
    return
  }
}

/** What ended it in the middle, by how far it was. */
function ended(cause: unknown, out: WholeWritten, begun: boolean): WholeWritten {
  const outcome = begun ? 'lost-midway' : 'no-answer'
  const next = begun
    ? 'Bring it into its loader again, and go on with the journal.'
    : 'Nothing was erased. Bring it into its loader again.'
  const ends = (how: WriteOutcome, why: LinkFinding): WholeWritten => {
    out.outcome = how
    out.findings.push(why)
    return out
  }
  if (cause instanceof Refused) return ends(outcome, refused(cause))
  if (cause instanceof OtherUnit)
    return ends(
      begun ? 'lost-midway' : 'refused',
      say(
        null,
        'link-other-unit',
        'error',
        'Another unit answers than before.',
        'The wires may be on another one.',
        next,
      ),
    )
  if (cause instanceof Silent)
    return ends(outcome, say(null, 'link-no-answer', 'error', 'The chip fell silent.', '', next))
  throw cause
}

/**
 * A write and its proof, over a chip that was identified. Nothing is erased before every reason against it was looked at; the chip
 * stays in its loader.
 * @param out is filled while it goes on: where the line itself is lost, it tells how far it had come
 */
export function* writeWhole(
  line: Line,
  who: Identity,
  expected: ExpectedUnit,
  write: WholeWrite,
  out: WholeWritten = nothingWritten(write.verify),
): Flow<WholeWritten> {
  out.findings.push(...who.findings, ...against(who, expected, write.verify))
  let begun = false
  try {
    if (!(yield* mayErase(line, who, write, out))) return out
    const outside = yield* outsideOf(line, who, write)
    out.outcome = 'cancelled'
    if (!(yield* mayGoOn())) {
      out.findings.push(say(null, 'link-cancelled', 'watch', 'Stopped before anything was erased.'))
      return out
    }
    begun = true
    out.outcome = 'lost-midway'
    if (write.resume)
      out.findings.push(
        say(null, 'link-resumed', 'ok', 'Gone on with where the journal ends: what is confirmed is not sent again.'),
      )
    out.regions.push(regionOf(who, write.offset, write.data.length))
    const resumes = line.counts.resumes
    yield* writtenAndProven(line, who, write, out)
    if (line.counts.resumes > resumes) out.findings.push(restartedTimes(line.counts.resumes - resumes))
    if ((out.outcome as WriteOutcome) !== 'done') return out
    const beside = yield* outsideChanged(line, who, outside)
    out.findings.push(...beside)
    if (beside.length > 0) out.outcome = 'verify-failed'
    return out
  } catch (cause) {
    return ended(cause, out, begun)
  }
}
