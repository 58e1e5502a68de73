import { createHash } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { basename } from 'node:path'
import { compareDumps, type DumpComparison } from '@fresh-coat/core/dump/compare'
import { finding, type PlacedFinding } from '@fresh-coat/core/edge/finding'
import { type Line, reportOf } from '@fresh-coat/core/link/flow'
import { type Identity, nobody } from '@fresh-coat/core/link/identity'
import { readFlash } from '@fresh-coat/core/link/reading'
import { bytesOption, type Options } from '../options'
import { UsageError } from '../usage'
import { Partial } from './partial'
import { type Session, session } from './session'

/** Keeping what stands in a chip: read twice, compared, and kept under its name only where both agree. */

interface Span {
  offset: number
  bytes: number
}

/** What is to be read, within the chip; the whole of it where nobody says. */
function spanOf(options: Options, flashBytes: number | null): Span {
  const [offset, bytes] = [bytesOption(options, 'offset') ?? 0, bytesOption(options, 'bytes', 1)]
  const size = flashBytes ?? (bytes === null ? null : offset + bytes)
  if (size === null) throw new UsageError('The chip does not say its size: give --bytes')
  const length = bytes ?? size - offset
  if (length < 1 || offset + length > size)
    throw new UsageError(`${offset} and ${length} bytes do not lie within the chip of ${size}`)
  return { offset, bytes: length }
}

/** One read of the span; every sector is handed on as it comes. */
async function readOnce(
  { link, line, told, run }: Session,
  who: Identity,
  { offset, bytes }: Span,
  read: number,
  keep: (at: number, part: Uint8Array) => void,
): Promise<Uint8Array> {
  const out = new Uint8Array(bytes)
  const from = link.now()
  await run(readFlash(line, who, offset, bytes), {
    onBytes: (at, part) => {
      out.set(part, at)
      keep(at, part)
      const done = at + part.length
      const seconds = (link.now() - from) / 1000
      const rate = seconds > 0 ? done / seconds : null
      told({
        state: 'backing up',
        read,
        done,
        total: bytes,
        bytesPerSecond: rate === null ? null : Math.round(rate),
        retries: line.counts.retries,
        secondsLeft: rate === null ? null : Math.round((bytes - done) / rate),
      })
    },
  })
  return out
}

const slowMs = 8

/** An adapter that waits before it hands an answer on makes a read by short answers many times longer. */
function slowFindings(line: Line): PlacedFinding<null>[] {
  const { latencyMs } = reportOf(line)
  if (latencyMs === null || latencyMs < slowMs) return []
  return [
    {
      ...finding(
        'link-slow-adapter',
        'watch',
        `Each answer waits ${Math.round(latencyMs)} ms in the adapter.`,
        'Reading is one short answer after the other.',
        'Its driver has a latency setting: 1 ms would make this several times faster.',
      ),
      at: null,
    },
  ]
}

const taken = (out: string): PlacedFinding<null> => ({
  ...finding(
    'file-taken',
    'watch',
    `${out} was made by somebody else meanwhile: it is left alone.`,
    'What was read stays in the partial file.',
    'Give it a name of its own.',
  ),
  at: null,
})

const verdictOf = (compare: DumpComparison | null) =>
  compare === null ? 'single' : compare.verdict === 'same' ? 'verified' : 'unstable'

/** Reads the chip, twice unless it is told once; what two reads do not agree on is never mixed, and never called a backup. */
export function linkBackup(options: Options): Promise<object> {
  const out = options.get('out')
  if (out === undefined) throw new UsageError('--out is missing: the file to keep it in')
  const reads = options.has('once') ? 1 : 2
  const partial = new Partial(out)
  const none = { out: null, sha256: null, reads: 0, verdict: null, compare: null, whole: false, seconds: 0 }
  const run = async (at: Session) => {
    const began = at.link.now()
    const found = await at.who()
    const { die: _, ...who } = found
    if (who.family === null) return { ...who, ...none, out: partial.ended() }
    const span = spanOf(options, who.flashBytes)
    const identity = { ...found, flashBytes: who.flashBytes ?? span.offset + span.bytes }
    const first = await readOnce(at, identity, span, 1, (place, part) => partial.write(place, part))
    const compare = reads === 2 ? compareDumps(first, await readOnce(at, identity, span, 2, () => {})) : null
    const verdict = verdictOf(compare)
    const sha256 = verdict === 'unstable' ? null : createHash('sha256').update(first).digest('hex')
    const kept = sha256 !== null && partial.believed()
    if (kept) writeFileSync(`${out}.sha256`, `${sha256}  ${basename(out)}\n`, { flag: 'wx', mode: 0o600 })
    if (sha256 === null) partial.ended()
    return {
      ...who,
      out: kept ? out : partial.path,
      ...span,
      sha256,
      reads,
      verdict,
      compare,
      whole: span.offset === 0 && span.bytes === who.flashBytes,
      seconds: (at.link.now() - began) / 1000,
      findings: [
        ...who.findings,
        ...(compare?.findings ?? []),
        ...slowFindings(at.line),
        ...(sha256 !== null && !kept ? [taken(out)] : []),
      ],
    }
  }
  return session(options, () => ({ ...nobody, ...none, out: partial.ended() }), run).finally(() => partial.ended())
}
