import { hasError } from '@fresh-coat/core/edge/finding'
import { LineLost } from '@fresh-coat/core/link/byte-link'
import { type Line, newLine, reportOf } from '@fresh-coat/core/link/flow'
import { beginJournal, inState, type Journal, noted, resumedFrom, resumeFindings } from '@fresh-coat/core/link/journal'
import { backToFirstRate, changeRate } from '@fresh-coat/core/link/line-test'
import { flashBlockBytes } from '@fresh-coat/core/link/packet'
import { hasDigest } from '@fresh-coat/core/link/reading'
import {
  type ExpectedUnit,
  half,
  nothingWritten,
  type VerifyMethod,
  type WholeWritten,
  type WriteOutcome,
  writeWhole,
} from '@fresh-coat/core/link/whole-write'
import {
  type DeskBase,
  fastRate,
  firstRate,
  type LinkAttempt,
  type OpenPort,
  secondsSince,
  timeoutMs,
} from './desk-base'

/** Writing at the desk what was checked, with a journal from which a half written chip is finished. */

export interface WriteJob {
  unitId: string | null
  open: OpenPort
  expected: ExpectedUnit
  byLines: boolean
  file: { sha256: string; bytes: number }
  data: Uint8Array
  offset: number
  eraseAll: boolean
  /** `best`: by digest where its ROM works one out, else by reading it back. */
  verify: VerifyMethod | 'best'
  /** Of a write that was broken off; null to begin. */
  journal: Journal | null
  keepJournal: (journal: Journal | null) => Promise<void>
  log: (attempt: LinkAttempt) => Promise<unknown>
}

/** Writes what was checked, and proves it; the chip stays in its loader. */
export async function writeChip(desk: DeskBase, job: WriteJob): Promise<void> {
  if (desk.busy) return
  desk.begin('write', job.unitId, job.byLines)
  const began = performance.now()
  const line = newLine(firstRate, timeoutMs)
  let verify: VerifyMethod = job.verify === 'best' ? 'readback' : job.verify
  const out = nothingWritten(verify)
  let journal = job.journal
  /** The journal of this write is kept: from then on the chip may be half written. */
  let begun = false
  const log = (outcome: LinkAttempt['outcome'], message: string) =>
    job.log({
      action: 'write',
      outcome,
      verified: out.verify.ok === true && verify !== 'sample',
      verify: verify === 'sample' ? 'none' : verify,
      seconds: secondsSince(began),
      rate: line.rate,
      message,
      real: desk.real,
    })
  try {
    await desk.opened(job.open, firstRate)
    const who = await desk.called(line, job.expected)
    if (job.verify === 'best' && who.family !== null && hasDigest(who.family)) verify = 'digest'
    out.verify.method = verify
    const against = journal ? resumeFindings(journal, who, job.file, job.offset) : []
    if (hasError([...desk.view.findings, ...against])) {
      await desk.finish(
        { words: 'Not written: nothing was erased.', good: false },
        { findings: [...desk.view.findings, ...against] },
      )
      return
    }
    if (desk.raises(who)) await desk.run(changeRate(line, who, fastRate), line)
    desk.show({ rate: line.rate, flashBytes: who.flashBytes }, true)
    const flow = writeWhole(
      line,
      who,
      job.expected,
      {
        offset: job.offset,
        data: job.data,
        eraseAll: job.eraseAll,
        verify,
        seed: 1,
        mayChangeRate: desk.link?.can.rate === true,
        resume: journal ? resumedFrom(journal) : null,
      },
      out,
    )
    await desk
      .run(flow, line, {
        cancelled: () => {
          showBlocks(desk, out, job.data.length, line)
          return desk.cancelled()
        },
        onNote: async (note) => {
          const at = new Date().toISOString()
          const { file, offset } = job
          journal = noted(
            journal ?? beginJournal({ unit: job.unitId, who, file, offset, rate: line.rate, at }),
            note,
            at,
          )
          await job.keepJournal(journal)
          begun = true
        },
      })
      .catch((cause) => {
        // The wires may be on another unit by now: nothing is opened again by itself.
        if (!(cause instanceof LineLost)) throw cause
        out.outcome = begun ? 'lost-midway' : 'no-answer'
        if (begun)
          out.findings.push(half({ outcome: 'lost-midway', at: job.offset + out.blocks.confirmed * flashBlockBytes }))
      })
    showBlocks(desk, out, job.data.length, line)
    if (out.outcome !== 'lost-midway') await desk.run(backToFirstRate(line), line).catch(() => {})
    const { outcome } = out
    if (journal && begun) await job.keepJournal(atItsEnd(journal, outcome))
    if (outcome !== 'refused') await log(outcome, wordsOf(out, line))
    await desk.finish(
      { words: endWords(out, verify), good: outcome === 'done' },
      { written: out, findings: out.findings },
    )
  } catch (cause) {
    await desk.endedBy(cause, log, begun)
  }
}

/** The journal as a write leaves it: none where it is done, and open where the chip is half written. */
function atItsEnd(journal: Journal, outcome: WriteOutcome): Journal | null {
  if (outcome === 'done') return null
  const state = outcome === 'refused' || outcome === 'no-answer' ? 'lost-midway' : outcome
  return inState(journal, state, new Date().toISOString())
}

function showBlocks(desk: DeskBase, { blocks }: WholeWritten, bytes: number, line: Line): void {
  if (blocks.total === 0) return
  const done = Math.min(blocks.confirmed * flashBlockBytes, bytes)
  const progress = { done, total: bytes, bytesPerSecond: null, secondsLeft: null }
  desk.show({ progress, retries: blocks.resent, resumes: line.counts.resumes })
}

const endWords = (out: WholeWritten, verify: VerifyMethod): string => {
  const goOn = 'Half written: bring it into its loader again, and go on.'
  switch (out.outcome) {
    case 'done':
      return verify === 'sample'
        ? 'Written, and a sample of it read back.'
        : out.verify.ok
          ? `Written, and equal by ${verify}.`
          : 'Written, not checked.'
    case 'refused':
      return 'Not written: nothing was erased.'
    case 'no-answer':
      return 'It fell silent before anything was erased.'
    case 'cancelled':
      return out.regions.length > 0 ? `Stopped. ${goOn}` : 'Stopped before anything was erased.'
    case 'lost-midway':
      return goOn
    default:
      return 'What stands in the chip is not what was written.'
  }
}

const wordsOf = (out: WholeWritten, line: Line): string => {
  const { blocks } = out
  const { latencyMs } = reportOf(line)
  const worst = (out.findings.find((f) => f.severity === 'error')?.message ?? '').replace(/\.$/, '')
  return [
    worst,
    `${blocks.confirmed} of ${blocks.total} blocks, ${blocks.resent} sent again`,
    latencyMs === null || latencyMs < 1 ? '' : `${latencyMs.toFixed(1)} ms an answer`,
  ]
    .filter(Boolean)
    .join('; ')
}
