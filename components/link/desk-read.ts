import { sectorBytes, sectorMapper } from '@fresh-coat/core/dump/sectors'
import { hasError } from '@fresh-coat/core/edge/finding'
import { LineLost } from '@fresh-coat/core/link/byte-link'
import { type Line, newLine } from '@fresh-coat/core/link/flow'
import { type Identity, Refused, Silent } from '@fresh-coat/core/link/identity'
import { backToFirstRate, changeRate } from '@fresh-coat/core/link/line-test'
import { readFlash } from '@fresh-coat/core/link/reading'
import type { ExpectedUnit } from '@fresh-coat/core/link/whole-write'
import {
  type DeskBase,
  Ended,
  fastRate,
  firstRate,
  type LinkAttempt,
  type OpenPort,
  otherRate,
  secondsSince,
  timeoutMs,
} from './desk-base'
import type { Progress } from './desk-store'

/** Reading the whole chip at the desk, over slips of the line. */

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

/** Reads the whole chip, twice or once more, and keeps each read. */
export async function readChip(desk: DeskBase, job: ReadJob): Promise<void> {
  if (desk.busy) return
  desk.begin('read', job.unitId, job.byLines)
  const began = performance.now()
  const at: Reading = { line: newLine(firstRate, timeoutMs), open: job.open, who: null, first: null }
  const log = (outcome: LinkAttempt['outcome'], message: string) =>
    job.log({
      action: 'read',
      outcome,
      verified: false,
      verify: 'none',
      seconds: secondsSince(began),
      rate: at.line.rate,
      message,
      real: desk.real,
    })
  try {
    await desk.opened(job.open, firstRate)
    const who = await desk.called(at.line, job.expected)
    const flashBytes = who.flashBytes ?? job.expected.flashBytes
    if (hasError(desk.view.findings) || flashBytes === null)
      return await desk.finish({ words: 'Not read: look at what the chip says.', good: false })
    at.who = { ...who, flashBytes }
    await job.identified(who)
    desk.show({ flashBytes }, true)
    for (const read of job.reads) {
      const bytes = await readWhole(desk, job, at, read, flashBytes)
      desk.show({ phase: 'keeping' }, true)
      if (!(await job.keep(bytes, { read, rate: at.line.rate, who })))
        return await desk.finish({ words: `Read ${read} is whole and could not be kept.`, good: false })
      at.first ??= bytes
    }
    await desk.run(backToFirstRate(at.line), at.line).catch(() => {})
    const differ = desk.view.differing.length
    await desk.finish({
      words: differ > 0 ? `The two reads differ in ${differ} sectors.` : 'Read, and kept.',
      good: differ === 0,
    })
  } catch (cause) {
    // A first read that was kept is a row of its own already, and took its gate with it.
    await desk.endedBy(cause, at.first === null ? log : async () => {})
  }
}

/** Before a read: another rate for each, by asking the chip, or by a new entry where its ROM cannot change its rate. */
async function towards(desk: DeskBase, job: ReadJob, at: Reading, read: 1 | 2): Promise<void> {
  const who = at.who as Identity
  if (desk.raises(who)) {
    await desk.run(changeRate(at.line, who, read === 2 ? otherRate : fastRate), at.line)
    return
  }
  if (read === 1 || at.first === null) return
  at.line = newLine(otherRate, timeoutMs)
  await desk.opened(at.open, otherRate)
  desk.show({ again: true, read: 2, progress: null }, true)
  at.who = await desk.sameAgain(at.line, job.expected, who)
}

/** One read of the whole chip; a line that is lost in it is waited for, and gone on with from the last whole sector. */
async function readWhole(
  desk: DeskBase,
  job: ReadJob,
  at: Reading,
  read: 1 | 2,
  total: number,
): Promise<Uint8Array<ArrayBuffer>> {
  await towards(desk, job, at, read)
  const bytes: Uint8Array<ArrayBuffer> = new Uint8Array(total)
  const map = sectorMapper(bytes)
  const clock = new Pace(total)
  desk.show({ phase: 'working', read, rate: at.line.rate, runs: [], differing: [], progress: null }, true)
  while (clock.done < total) {
    const from = clock.done
    const onBytes = (place: number, part: Uint8Array) => {
      const begins = from + place
      bytes.set(part, begins)
      const { first } = at
      const differs = first !== null && part.some((b, i) => b !== first[begins + i])
      map.advance(clock.to(begins + part.length))
      desk.show({
        runs: [...map.runs],
        progress: clock.progress(),
        differing: differs ? [...desk.view.differing, Math.floor(begins / sectorBytes)] : desk.view.differing,
        retries: at.line.counts.retries,
        resumes: at.line.counts.resumes,
      })
    }
    const flow = readFlash(at.line, at.who as Identity, from, total - from)
    try {
      if (!(await desk.run(flow, at.line, { cancelled: () => desk.cancelled(), onBytes }))) throw new Ended()
    } catch (cause) {
      if (!(cause instanceof LineLost || cause instanceof Silent || cause instanceof Refused)) throw cause
      await clock.without(() => foundAgain(desk, job, at))
      desk.show({ phase: 'working', read, rate: at.line.rate }, true)
    }
  }
  return bytes
}

/** A line that was lost in a read: a person says over which port it goes on, and it has to be the same unit. */
async function foundAgain(desk: DeskBase, job: ReadJob, at: Reading): Promise<void> {
  at.open = await desk.waitForHand()
  at.line = newLine(firstRate, timeoutMs)
  await desk.opened(at.open, firstRate)
  at.who = await desk.sameAgain(at.line, job.expected, at.who as Identity)
  if (desk.raises(at.who)) await desk.run(changeRate(at.line, at.who, fastRate), at.line)
}
