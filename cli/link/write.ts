import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { type Outcome, parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { hasError } from '@fresh-coat/core/edge/finding'
import { readWriteRequest, type WriteRequest } from '@fresh-coat/core/flash/request'
import { LineLost } from '@fresh-coat/core/link/byte-link'
import { nobody } from '@fresh-coat/core/link/identity'
import { beginJournal, inState, Journal, noted, resumedFrom, resumeFindings } from '@fresh-coat/core/link/journal'
import { flashBlockBytes } from '@fresh-coat/core/link/packet'
import { half, nothingWritten, type WholeWritten, writeWhole } from '@fresh-coat/core/link/whole-write'
import { noBlocks } from '@fresh-coat/core/link/writing'
import type { Io } from '../command'
import { type Options, wholeOption } from '../options'
import { FileError, UsageError } from '../usage'
import { type Judged, judgedWrite } from './judged'
import { notOpened, type Session, session } from './session'

/** Writing exactly what was judged, with a journal from which a half written chip is finished. */

const seeds = { otherwise: 1, least: 0, most: 2 ** 32 - 1 }

/** The journal of the call, on the disk before anything is erased and at every sector. */
class JournalFile {
  private journal: Journal | null
  constructor(
    readonly path: string | null,
    resume: boolean,
  ) {
    this.journal = resume && path !== null ? JournalFile.read(path) : null
    if (!resume && path !== null && existsSync(path))
      throw new FileError(`${path} is there already: give --resume to go on with it, or another name`)
  }
  private static read(path: string): Journal {
    let read: unknown
    try {
      read = JSON.parse(readFileSync(path, 'utf8'))
    } catch (cause) {
      throw new FileError(`${path} cannot be read as a journal: ${(cause as Error).message}`)
    }
    const parsed = parseInput(Journal, read, strictCodes)
    if (!parsed.ok)
      throw new FileError(`${path} is no journal of a write: ${parsed.faults[0]?.path} ${parsed.faults[0]?.message}`)
    return parsed.value
  }
  get begun(): Journal | null {
    return this.journal
  }
  /** Whole or not at all: a machine that stops in the middle leaves the one before. */
  keep(journal: Journal): void {
    this.journal = journal
    if (this.path === null) return
    writeFileSync(`${this.path}.new`, `${JSON.stringify(journal)}\n`, { mode: 0o600 })
    renameSync(`${this.path}.new`, this.path)
  }
}

const stateBy: Partial<Record<WholeWritten['outcome'], Journal['state']>> = {
  done: 'done',
  'verify-failed': 'verify-failed',
  'lost-midway': 'lost-midway',
  cancelled: 'cancelled',
}
const nowText = () => new Date().toISOString()

async function written(
  at: Session,
  request: WriteRequest,
  { file, preflight, offset }: Judged,
  kept: JournalFile,
  seed: number,
): Promise<object> {
  const found = await at.who()
  const { die: _, ...who } = found
  const unsaid = { preflight, regions: [], blocks: noBlocks(), journal: kept.path }
  const verify = { method: request.write.verify, ok: null }
  if (who.family === null) return { ...who, ...unsaid, verify, outcome: 'no-answer' }
  const { unit, write } = request
  const findings = [...preflight.findings]
  const begun = kept.begun
  const against = begun
    ? resumeFindings(begun, found, { sha256: file.sha256, bytes: file.bytes.length }, offset ?? 0)
    : []
  if (hasError([...findings, ...against]) || offset === null)
    return { ...who, ...unsaid, verify, outcome: 'refused', findings: [...who.findings, ...findings, ...against] }
  const fresh = () =>
    beginJournal({
      unit: null,
      who: found,
      file: { sha256: file.sha256, bytes: file.bytes.length },
      offset,
      rate: at.line.rate,
      at: nowText(),
    })
  // Nothing half written is known of before the chip is asked to erase.
  let journal = begun ? { ...begun, resumes: begun.resumes + 1, updatedAt: nowText() } : null
  const out = nothingWritten(write.verify)
  const flow = writeWhole(
    at.line,
    found,
    {
      family: unit.family,
      mac: unit.mac ?? null,
      flashId: unit.flashId ?? null,
      flashBytes: unit.flashBytes ?? null,
    },
    {
      offset,
      data: file.bytes,
      eraseAll: write.eraseAll ?? false,
      verify: write.verify,
      seed,
      mayChangeRate: at.link.can.rate,
      resume: begun ? resumedFrom(begun) : null,
    },
    out,
  )
  const writing = at.write(flow, (note) => {
    journal = noted(journal ?? fresh(), note, nowText())
    kept.keep(journal)
    at.told({
      state: 'writing',
      done: note.confirmedBlocks * flashBlockBytes,
      total: note.bytes,
      bytesPerSecond: null,
      retries: at.line.counts.retries,
      secondsLeft: null,
    })
  })
  const result = await writing.catch((cause) => {
    // The port itself is gone: nothing is opened again by itself, since the wires may be on another unit by now.
    if (!(cause instanceof LineLost) || journal === null) throw cause
    const place = offset + out.blocks.confirmed * flashBlockBytes
    return {
      ...out,
      outcome: 'lost-midway' as const,
      findings: [...out.findings, half({ outcome: 'lost-midway', at: place })],
    }
  })
  const state = stateBy[result.outcome]
  if (journal && state) kept.keep(inState(journal, state, nowText()))
  return { ...who, ...unsaid, ...result, findings: [...findings, ...result.findings] }
}

/** Writes what the request names, where the preflight allows it, and proves it; the chip stays in its loader. */
export async function linkWrite(input: unknown, io: Io, options: Options): Promise<Outcome<object>> {
  const parsed = readWriteRequest(input)
  if (!parsed.ok) return parsed
  const resume = options.has('resume')
  const path = options.get('journal') ?? null
  if (resume && path === null) throw new UsageError('--resume needs --journal: the file that the write left behind')
  const seed = wholeOption(options, 'seed', seeds)
  const kept = new JournalFile(path, resume)
  const judged = await judgedWrite(parsed.value, io)
  const none = {
    preflight: judged.preflight,
    regions: [],
    blocks: noBlocks(),
    verify: { method: parsed.value.write.verify, ok: null },
    journal: path,
  }
  if (judged.preflight.verdict === 'stop' || judged.offset === null)
    return {
      ok: true,
      value: { ...nobody, outcome: 'refused', ...none, ...notOpened(options), findings: judged.preflight.findings },
    }
  const value = await session(
    options,
    () => ({ ...nobody, outcome: 'no-answer', ...none }),
    (at) => written(at, parsed.value, judged, kept, seed),
  )
  return { ok: true, value }
}
