import { readBootLog } from '@fresh-coat/core/boot/boot-log'
import { bytesOfLatin1, latin1 } from '@fresh-coat/core/bytes/text'
import { sectorBytes, sectorMapper } from '@fresh-coat/core/dump/sectors'
import { hasError } from '@fresh-coat/core/edge/finding'
import { type ByteLink, LineLost } from '@fresh-coat/core/link/byte-link'
import { drive, Stopped, type Watch } from '@fresh-coat/core/link/drive'
import { enterByLines } from '@fresh-coat/core/link/enter'
import { type Flow, type Line, type LineReport, newLine, reportOf } from '@fresh-coat/core/link/flow'
import { type Identity, identify, lacks, OtherUnit, Refused, Silent } from '@fresh-coat/core/link/identity'
import { beginJournal, inState, type Journal, noted, resumedFrom, resumeFindings } from '@fresh-coat/core/link/journal'
import { backToFirstRate, changeRate } from '@fresh-coat/core/link/line-test'
import { type LineMeasure, measureLine } from '@fresh-coat/core/link/measure'
import { flashBlockBytes } from '@fresh-coat/core/link/packet'
import { hasDigest, readFlash } from '@fresh-coat/core/link/reading'
import {
  type ExpectedUnit,
  nothingWritten,
  unitFindings,
  type VerifyMethod,
  type WholeWritten,
  writeWhole,
} from '@fresh-coat/core/link/whole-write'

import { type DeskStore, type DeskView, deskStore, idleDesk, isBusy, type Progress } from './desk-store'

/**
 * The desk at which one port is worked: it opens it, calls the chip until it answers, reads, writes or listens, and tells what it
 * does. It knows no screen: a page shows what it says, and presses its keys. Bytes stay here, and never in a page's state.
 */
export type OpenPort = (rate: number) => Promise<ByteLink>

export interface ReadJob {
  unitId: string | null
  open: OpenPort
  expected: ExpectedUnit
  /** Into its loader by the adapter's lines; otherwise by hand. */
  byLines: boolean
  /** Hears what the chip said of itself, once it is the unit of the record. */
  identified: (who: Identity) => Promise<unknown>
  /** Reads to make: the second alone where the first is kept already. */
  reads: readonly (1 | 2)[]
  /** Keeps what was read; false where it could not be kept. */
  keep: (bytes: Uint8Array<ArrayBuffer>, of: { read: 1 | 2; rate: number; who: Identity }) => Promise<boolean>
  /** Logs how it went where it did not end with a read that is kept: that is a row of its own. */
  log: (attempt: LinkAttempt) => Promise<unknown>
}
export interface WriteJob {
  unitId: string | null
  open: OpenPort
  expected: ExpectedUnit
  byLines: boolean
  file: { sha256: string; bytes: number }
  data: Uint8Array
  offset: number
  eraseAll: boolean
  verify: VerifyMethod
  /** Of a write that was broken off; null to begin. */
  journal: Journal | null
  keepJournal: (journal: Journal | null) => Promise<void>
  log: (attempt: LinkAttempt) => Promise<unknown>
}
export interface LinkAttempt {
  action: 'read' | 'write'
  outcome: 'done' | 'no-answer' | 'lost-midway' | 'verify-failed' | 'cancelled'
  verified: boolean
  verify: 'digest' | 'readback' | 'none'
  seconds: number
  rate: number
  message: string
}

const firstRate = 115_200
const fastRate = 460_800
const otherRate = 230_400
const timeoutMs = 400
const triesAtOnce = 10
const listenMs = 250
/** So long it goes on listening after something was said to it. */
const talkMs = 30_000
const mostText = 200_000

/** A person ended it. */
class Ended extends Error {}

/** What a read goes on with: its line and its port are others after a slip. */
interface Reading {
  line: Line
  open: OpenPort
  who: Identity | null
  /** The first read, to hold the second against. */
  first: Uint8Array | null
}

/** How far it is and how fast it goes, without the time that it waited for a hand. */
class Pace {
  done = 0
  private readonly from = performance.now()
  private waited = 0
  constructor(private readonly total: number) {}
  to(done: number): number {
    this.done = done
    return done
  }
  async without(wait: () => Promise<void>): Promise<void> {
    const began = performance.now()
    await wait()
    this.waited += performance.now() - began
  }
  progress(): Progress {
    const seconds = (performance.now() - this.from - this.waited) / 1000
    const bytesPerSecond = seconds > 0 && this.done > 0 ? this.done / seconds : null
    const secondsLeft = bytesPerSecond === null ? null : (this.total - this.done) / bytesPerSecond
    return { done: this.done, total: this.total, bytesPerSecond, secondsLeft }
  }
}

export class Desk {
  private link: ByteLink | null = null
  private stopping = false
  private byLines = false
  private text = ''
  private until = 0
  private goOn: ((open: OpenPort | null) => void) | null = null
  private resume: (() => void) | null = null

  constructor(readonly store: DeskStore) {
    store.close = () => this.closeAtOnce()
  }
  private get view(): DeskView {
    return this.store.now()
  }
  get busy(): boolean {
    return isBusy(this.view)
  }
  private show(change: Partial<DeskView>, now = false): void {
    this.store.show(change, now)
  }

  pause(): void {
    this.show({ paused: true }, true)
  }
  continue(): void {
    this.show({ paused: false }, true)
    this.resume?.()
  }
  /** Ends it where nothing is half done; what is erased or written ends between two blocks. */
  stop(): void {
    this.stopping = true
    this.continue()
    this.goOn?.(null)
  }
  /** The line was lost: it goes on over this port. */
  again(open: OpenPort): void {
    this.goOn?.(open)
  }
  /** Puts what ended out of sight. */
  clear(): void {
    if (!this.busy) this.show(idleDesk, true)
  }
  /** The mains are about to be connected: whatever goes on, the port is closed. */
  async closeAtOnce(): Promise<void> {
    this.stop()
    await this.link?.close()
  }

  /** Both ends can change their rate. */
  private raises({ family }: Identity): boolean {
    return this.link?.can.rate === true && family !== null && !lacks({ family }, 'set-rate')
  }
  private async cancelled(): Promise<boolean> {
    while (this.view.paused && !this.stopping)
      await new Promise<void>((done) => {
        this.resume = done
      })
    return this.stopping
  }
  private run<T>(flow: Flow<T>, line: Line, more: Watch = {}): Promise<T> {
    if (!this.link) throw new LineLost('closed', 'no port is open')
    return drive(flow, this.link, {
      onState: (state) => this.show({ state, retries: line.counts.retries, resumes: line.counts.resumes }, true),
      ...more,
    })
  }

  private async opened(open: OpenPort, rate: number): Promise<void> {
    this.show({ phase: 'opening', rate }, true)
    await this.link?.close()
    this.link = null
    this.link = await open(rate)
  }

  /** Calls until it answers, or somebody ends it: there is no key to press with full hands. */
  private async called(line: Line, expected: ExpectedUnit): Promise<Identity> {
    this.show({ phase: 'calling', heard: null }, true)
    for (;;) {
      if (this.byLines) await this.run(enterByLines(), line)
      const who = await this.run(identify(line, triesAtOnce), line, { stopped: () => this.stopping }).catch((cause) => {
        if (cause instanceof Silent || cause instanceof Refused) return null
        throw cause
      })
      if (this.stopping) throw new Ended()
      if (who?.magic) {
        this.show(
          { phase: 'working', who, heard: null, findings: [...who.findings, ...unitFindings(expected, who)] },
          true,
        )
        return who
      }
      this.show({ heard: who?.findings[0] ?? null }, true)
    }
  }

  /** Waits for a person: a port to go on over. @throws Ended where they end it */
  private async waitForHand(): Promise<OpenPort> {
    // The port was closed on purpose.
    if (this.stopping) throw new Ended()
    this.show({ phase: 'lost', paused: false }, true)
    const open = await new Promise<OpenPort | null>((done) => {
      this.goOn = done
    })
    this.goOn = null
    if (!open) throw new Ended()
    return open
  }

  private begin(what: DeskView['what'], unitId: string | null): void {
    this.stopping = false
    this.show({ ...idleDesk, phase: 'opening', what, unitId }, true)
  }
  private async finish(ended: DeskView['ended'], more: Partial<DeskView> = {}): Promise<void> {
    await this.link?.close().catch(() => {})
    this.link = null
    this.show({ ...more, phase: 'over', ended, paused: false }, true)
  }

  /** Reads the whole chip, twice or once more, and keeps each read. */
  async read(job: ReadJob): Promise<void> {
    if (this.busy) return
    this.begin('read', job.unitId)
    this.byLines = job.byLines
    const began = performance.now()
    const at: Reading = { line: newLine(firstRate, timeoutMs), open: job.open, who: null, first: null }
    const log = (outcome: LinkAttempt['outcome'], message: string) =>
      job.log({
        action: 'read',
        outcome,
        verified: false,
        verify: 'none',
        seconds: Math.round((performance.now() - began) / 100) / 10,
        rate: at.line.rate,
        message,
      })
    try {
      await this.opened(job.open, firstRate)
      const who = await this.called(at.line, job.expected)
      const flashBytes = who.flashBytes ?? job.expected.flashBytes
      if (hasError(this.view.findings) || flashBytes === null)
        return await this.finish({ words: 'Not read: look at what the chip says.', good: false })
      at.who = { ...who, flashBytes }
      await job.identified(who)
      this.show({ flashBytes }, true)
      for (const read of job.reads) {
        const bytes = await this.readWhole(job, at, read, flashBytes)
        this.show({ phase: 'keeping' }, true)
        if (!(await job.keep(bytes, { read, rate: at.line.rate, who })))
          return await this.finish({ words: `Read ${read} is whole and could not be kept.`, good: false })
        at.first ??= bytes
      }
      await this.run(backToFirstRate(at.line), at.line).catch(() => {})
      const differ = this.view.differing.length
      await this.finish({
        words: differ > 0 ? `The two reads differ in ${differ} sectors.` : 'Read, and kept.',
        good: differ === 0,
      })
    } catch (cause) {
      await this.endedBy(cause, log)
    }
  }

  /** Before a read: another rate for each, by asking the chip, or by a new entry where its ROM cannot change its rate. */
  private async towards(job: ReadJob, at: Reading, read: 1 | 2): Promise<void> {
    const who = at.who as Identity
    if (this.raises(who)) {
      await this.run(changeRate(at.line, who, read === 2 ? otherRate : fastRate), at.line)
      return
    }
    if (read === 1 || at.first === null) return
    at.line = newLine(otherRate, timeoutMs)
    await this.opened(at.open, otherRate)
    this.show({ again: true, read: 2, progress: null }, true)
    at.who = await this.sameAgain(at.line, job.expected, who)
  }

  /** One read of the whole chip; a line that is lost in it is waited for, and gone on with from the last whole sector. */
  private async readWhole(job: ReadJob, at: Reading, read: 1 | 2, total: number): Promise<Uint8Array<ArrayBuffer>> {
    await this.towards(job, at, read)
    const bytes: Uint8Array<ArrayBuffer> = new Uint8Array(total)
    const map = sectorMapper(bytes)
    const clock = new Pace(total)
    this.show({ phase: 'working', read, rate: at.line.rate, runs: [], differing: [], progress: null }, true)
    while (clock.done < total) {
      const from = clock.done
      const onBytes = (place: number, part: Uint8Array) => {
        const begins = from + place
        bytes.set(part, begins)
        const { first } = at
        const differs = first !== null && part.some((b, i) => b !== first[begins + i])
        map.advance(clock.to(begins + part.length))
        this.show({
          runs: [...map.runs],
          progress: clock.progress(),
          differing: differs ? [...this.view.differing, Math.floor(begins / sectorBytes)] : this.view.differing,
          retries: at.line.counts.retries,
          resumes: at.line.counts.resumes,
        })
      }
      const flow = readFlash(at.line, at.who as Identity, from, total - from)
      try {
        if (!(await this.run(flow, at.line, { cancelled: () => this.cancelled(), onBytes }))) throw new Ended()
      } catch (cause) {
        if (!(cause instanceof LineLost || cause instanceof Silent || cause instanceof Refused)) throw cause
        await clock.without(() => this.foundAgain(job, at))
        this.show({ phase: 'working', read, rate: at.line.rate }, true)
      }
    }
    return bytes
  }

  /** A line that was lost in a read: a person says over which port it goes on, and it has to be the same unit. */
  private async foundAgain(job: ReadJob, at: Reading): Promise<void> {
    at.open = await this.waitForHand()
    at.line = newLine(firstRate, timeoutMs)
    await this.opened(at.open, firstRate)
    at.who = await this.sameAgain(at.line, job.expected, at.who as Identity)
    if (this.raises(at.who)) await this.run(changeRate(at.line, at.who, fastRate), at.line)
  }

  /** The same chip as before, or nothing goes on. */
  private async sameAgain(line: Line, expected: ExpectedUnit, before: Identity): Promise<Identity> {
    const who = await this.called(line, expected)
    if (who.mac !== before.mac || who.flashId !== before.flashId) throw new OtherUnit()
    return { ...who, flashBytes: before.flashBytes }
  }

  private async endedBy(
    cause: unknown,
    log: (outcome: LinkAttempt['outcome'], message: string) => Promise<unknown>,
  ): Promise<void> {
    const answered = this.view.who !== null
    if (cause instanceof Ended || cause instanceof Stopped) {
      await log(answered ? 'cancelled' : 'no-answer', this.view.heard?.message ?? '')
      return this.finish({ words: answered ? 'Stopped.' : 'Stopped: nothing had answered.', good: false })
    }
    if (cause instanceof OtherUnit)
      return this.finish({ words: 'Another unit answers than before. Nothing goes on.', good: false })
    const words = cause instanceof Error ? cause.message : String(cause)
    // Nothing was tried: no attempt is told of it.
    if (this.view.phase === 'opening')
      return this.finish({
        words: `The port cannot be opened: ${words}. Another page or program may have it.`,
        good: false,
      })
    await log(answered ? 'lost-midway' : 'no-answer', words).catch(() => {})
    await this.finish({ words: `It ended: ${words}.`, good: false })
  }

  /** Writes what was checked, and proves it; the chip stays in its loader. */
  async write(job: WriteJob): Promise<void> {
    if (this.busy) return
    this.begin('write', job.unitId)
    this.byLines = job.byLines
    const began = performance.now()
    const line = newLine(firstRate, timeoutMs)
    const out = nothingWritten(job.verify)
    let journal = job.journal
    const log = (outcome: LinkAttempt['outcome'], message: string) =>
      job.log({
        action: 'write',
        outcome,
        verified: out.verify.ok === true && job.verify !== 'sample',
        verify: job.verify === 'sample' ? 'none' : job.verify,
        seconds: Math.round((performance.now() - began) / 100) / 10,
        rate: line.rate,
        message,
      })
    try {
      await this.opened(job.open, firstRate)
      const who = await this.called(line, job.expected)
      const against = journal ? resumeFindings(journal, who, job.file, job.offset) : []
      if (hasError([...this.view.findings, ...against])) {
        await this.finish(
          { words: 'Not written: nothing was erased.', good: false },
          { findings: [...this.view.findings, ...against] },
        )
        return
      }
      if (who.family && !lacks({ family: who.family }, 'set-rate'))
        await this.run(changeRate(line, who, fastRate), line)
      this.show({ rate: line.rate, flashBytes: who.flashBytes }, true)
      const flow = writeWhole(
        line,
        who,
        job.expected,
        {
          offset: job.offset,
          data: job.data,
          eraseAll: job.eraseAll,
          verify: job.verify,
          seed: 1,
          mayChangeRate: this.link?.can.rate === true,
          resume: journal ? resumedFrom(journal) : null,
        },
        out,
      )
      await this.run(flow, line, {
        cancelled: () => {
          this.showBlocks(out, job.data.length, line)
          return this.cancelled()
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
        },
      }).catch((cause) => {
        // The wires may be on another unit by now: nothing is opened again by itself.
        if (!(cause instanceof LineLost)) throw cause
        out.outcome = journal ? 'lost-midway' : 'no-answer'
      })
      this.showBlocks(out, job.data.length, line)
      if (out.outcome !== 'lost-midway') await this.run(backToFirstRate(line), line).catch(() => {})
      const done = out.outcome === 'done'
      const { outcome } = out
      if (journal)
        await job.keepJournal(
          done
            ? null
            : inState(
                journal,
                outcome === 'refused' || outcome === 'no-answer' ? 'lost-midway' : outcome,
                new Date().toISOString(),
              ),
        )
      if (outcome !== 'refused') await log(outcome, wordsOf(out, line))
      await this.finish({ words: endWords(out, job.verify), good: done }, { written: out, findings: out.findings })
    } catch (cause) {
      await this.endedBy(cause, log)
    }
  }

  /** How long an answer waits over this line, and the highest rate that holds; nothing is read of the flash, and nothing written. */
  async measure(job: {
    unitId: string | null
    open: OpenPort
    byLines: boolean
    note: (measured: LineMeasure, who: Identity) => Promise<unknown>
  }): Promise<void> {
    if (this.busy) return
    this.begin('measure', job.unitId)
    this.byLines = job.byLines
    const line = newLine(firstRate, timeoutMs)
    try {
      await this.opened(job.open, firstRate)
      const nothing = { family: null, mac: null, flashId: null, flashBytes: null }
      const who = await this.called(line, nothing)
      const measured = await this.run(measureLine(line, who, this.raises(who)), line)
      await job.note(measured, who)
      await this.finish({ words: measureWords(measured), good: measured.bestRate !== null })
    } catch (cause) {
      await this.endedBy(cause, async () => {})
    }
  }

  private showBlocks({ blocks }: WholeWritten, bytes: number, line: Line): void {
    if (blocks.total === 0) return
    const done = Math.min(blocks.confirmed * flashBlockBytes, bytes)
    const progress = { done, total: bytes, bytesPerSecond: null, secondsLeft: null }
    this.show({ progress, retries: blocks.resent, resumes: line.counts.resumes })
  }

  /** Hears for so long, and longer while somebody talks to it. */
  private async hear(link: ByteLink, ms: number): Promise<void> {
    this.until = link.now() + ms
    for (let left = ms; left > 0 && !this.stopping && this.text.length < mostText; left = this.until - link.now()) {
      const part = latin1(await link.read(Math.min(left, listenMs)))
      if (part === '') continue
      this.text += part
      this.show({ text: this.text })
    }
  }
  /** Sends a line to the program that is listened to; it stands in the text as what was said, not as what it answered. */
  async say(line: string): Promise<void> {
    if (!this.link || this.view.phase !== 'listening') return
    this.text = `${this.text.replace(/\n?$/, '\n')}> ${line}\n`
    this.until = Math.max(this.until, this.link.now() + talkMs)
    this.show({ text: this.text }, true)
    await this.link.write(bytesOfLatin1(`${line}\r\n`))
  }

  /** Hears what the unit says, at one rate after the other. Nothing is sent but what a person says. */
  async listen(job: {
    unitId: string | null
    open: OpenPort
    rates: readonly { rate: number; seconds: number }[]
    heard: (text: string, rate: number) => void
  }): Promise<void> {
    if (this.busy) return
    this.begin('listen', job.unitId)
    this.text = ''
    try {
      for (const { rate, seconds } of job.rates) {
        await this.opened(job.open, rate)
        this.show({ phase: 'listening', rate }, true)
        await this.hear(this.link as unknown as ByteLink, seconds * 1000)
        job.heard(this.text, rate)
        if (this.stopping) break
      }
      const { text } = this
      const read = readBootLog({ text })
      await this.finish({
        words: read.ok ? `Heard ${text.length} bytes.` : 'Nothing was heard.',
        good: text.length > 0,
      })
    } catch (cause) {
      await this.finish({ words: `It ended: ${cause instanceof Error ? cause.message : String(cause)}.`, good: false })
    }
  }
}

const slowMs = 8
/** What was measured, and what would help. */
export function measureWords({ latencyMs, bestRate, rates }: LineMeasure): string {
  if (bestRate === null) return 'The line does not hold even at its first rate: shorten the wires, join the grounds.'
  const failed = rates.find((r) => !r.holds)
  const rate = `It holds ${bestRate} baud${failed ? `, and not ${failed.rate}` : ''}`
  if (latencyMs === null) return `${rate}.`
  const wait = `an answer waits ${latencyMs.toFixed(1)} ms`
  return latencyMs >= slowMs
    ? `${rate}; ${wait} in the adapter. Its driver has a latency setting: 1 ms would make reading several times faster.`
    : `${rate}; ${wait}.`
}

const endWords = (out: WholeWritten, verify: VerifyMethod): string => {
  const half = 'Half written: bring it into its loader again, and go on.'
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
      return out.regions.length > 0 ? `Stopped. ${half}` : 'Stopped before anything was erased.'
    case 'lost-midway':
      return half
    default:
      return 'What stands in the chip is not what was written.'
  }
}

const wordsOf = (out: WholeWritten, line: Line): string => {
  const { blocks } = out
  const { latencyMs }: LineReport = reportOf(line)
  const worst = (out.findings.find((f) => f.severity === 'error')?.message ?? '').replace(/\.$/, '')
  return [
    worst,
    `${blocks.confirmed} of ${blocks.total} blocks, ${blocks.resent} sent again`,
    latencyMs === null || latencyMs < 1 ? '' : `${latencyMs.toFixed(1)} ms an answer`,
  ]
    .filter(Boolean)
    .join('; ')
}

/** How a family is verified over the link: by its own digest, or by reading it back where its ROM has none. */
export const usualVerify = (family: Parameters<typeof hasDigest>[0]): VerifyMethod =>
  hasDigest(family) ? 'digest' : 'readback'

/** One port at a time, whatever page is on screen. */
export const desk = new Desk(deskStore)
