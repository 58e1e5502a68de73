import { type ByteLink, LineLost } from '@fresh-coat/core/link/byte-link'
import { drive, Stopped, type Watch } from '@fresh-coat/core/link/drive'
import { enterByLines } from '@fresh-coat/core/link/enter'
import type { Flow, Line } from '@fresh-coat/core/link/flow'
import { type Identity, identify, lacks, OtherUnit, Refused, Silent } from '@fresh-coat/core/link/identity'
import { type ExpectedUnit, unitFindings } from '@fresh-coat/core/link/whole-write'
import { type DeskStore, type DeskView, idleDesk, isBusy } from './desk-store'

/**
 * The desk at which one port is worked: it opens it, calls the chip until it answers, rests, and ends. What is done there stands beside it
 * (`desk-read.ts`, `desk-write.ts`, `desk-listen.ts`, `desk-measure.ts`). It knows no screen: a page shows what it says, and presses its
 * keys. Bytes stay here, and never in a page's state.
 */
export type OpenPort = (rate: number) => Promise<ByteLink>

export interface LinkAttempt {
  action: 'read' | 'write'
  outcome: 'done' | 'no-answer' | 'lost-midway' | 'verify-failed' | 'cancelled'
  verified: boolean
  verify: 'digest' | 'readback' | 'none'
  seconds: number
  rate: number
  message: string
  /** A chip of silicon, as far as its port can tell: a bridge over the network cannot. */
  real: boolean | null
}

export const firstRate = 115_200
export const fastRate = 460_800
export const otherRate = 230_400
export const timeoutMs = 400
const triesAtOnce = 10

/** A person ended it. */
export class Ended extends Error {}

/** So many seconds since then, to a tenth. */
export const secondsSince = (began: number): number => Math.round((performance.now() - began) / 100) / 10

export class DeskBase {
  link: ByteLink | null = null
  /** What carried it last, also once it is lost. */
  private carried: ByteLink['kind'] | null = null
  stopping = false
  private byLines = false
  private goOn: ((open: OpenPort | null) => void) | null = null
  private resume: (() => void) | null = null

  constructor(readonly store: DeskStore) {
    store.close = () => this.closeAtOnce()
  }
  get view(): DeskView {
    return this.store.now()
  }
  get busy(): boolean {
    return isBusy(this.view)
  }
  show(change: Partial<DeskView>, now = false): void {
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
  raises({ family }: Identity): boolean {
    return this.link?.can.rate === true && family !== null && !lacks({ family }, 'set-rate')
  }
  async cancelled(): Promise<boolean> {
    while (this.view.paused && !this.stopping)
      await new Promise<void>((done) => {
        this.resume = done
      })
    return this.stopping
  }
  run<T>(flow: Flow<T>, line: Line, more: Watch = {}): Promise<T> {
    if (!this.link) throw new LineLost('closed', 'no port is open')
    return drive(flow, this.link, {
      onState: (state) => this.show({ state, retries: line.counts.retries, resumes: line.counts.resumes }, true),
      ...more,
    })
  }

  async opened(open: OpenPort, rate: number): Promise<void> {
    this.show({ phase: 'opening', rate }, true)
    await this.link?.close()
    this.link = null
    this.link = await open(rate)
    this.carried = this.link.kind
  }
  /** Whether what hung on it was real: over a bridge nobody can know, and a port that never opened says nothing. */
  get real(): boolean | null {
    return this.carried === 'web-serial' ? true : this.carried === 'virtual' || this.carried === 'replay' ? false : null
  }

  /** Calls until it answers, or somebody ends it: there is no key to press with full hands. */
  async called(line: Line, expected: ExpectedUnit): Promise<Identity> {
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
  async waitForHand(): Promise<OpenPort> {
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

  /** @param byLines into its loader by the adapter's lines; otherwise by hand */
  begin(what: DeskView['what'], unitId: string | null, byLines: boolean): void {
    this.stopping = false
    this.byLines = byLines
    this.show({ ...idleDesk, phase: 'opening', what, unitId }, true)
  }
  async finish(ended: DeskView['ended'], more: Partial<DeskView> = {}): Promise<void> {
    await this.link?.close().catch(() => {})
    this.link = null
    this.show({ ...more, phase: 'over', ended, paused: false }, true)
  }

  /** The same chip as before, or nothing goes on. */
  async sameAgain(line: Line, expected: ExpectedUnit, before: Identity): Promise<Identity> {
    const who = await this.called(line, expected)
    if (who.mac !== before.mac || who.flashId !== before.flashId) throw new OtherUnit()
    return { ...who, flashBytes: before.flashBytes }
  }

  /** What ended it, in words and as an attempt. */
  async endedBy(
    cause: unknown,
    log: (outcome: LinkAttempt['outcome'], message: string) => Promise<unknown>,
    /** Something of the chip had come, or gone to it. */
    begun = this.view.who !== null,
  ): Promise<void> {
    const answered = this.view.who !== null
    if (cause instanceof Ended || cause instanceof Stopped) {
      await log(answered ? 'cancelled' : 'no-answer', this.view.heard?.message ?? '')
      return this.finish({ words: answered ? 'Stopped.' : 'Stopped: nothing had answered.', good: false })
    }
    if (cause instanceof OtherUnit)
      return this.finish({ words: 'Another unit answers than before. Nothing goes on.', good: false })
    const words =
      cause instanceof Silent ? 'the chip fell silent' : cause instanceof Error ? cause.message : String(cause)
    // Nothing was tried: no attempt is told of it.
    if (this.view.phase === 'opening')
      return this.finish({
        words: `The port cannot be opened: ${words}. Another page or program may have it.`,
        good: false,
      })
    await log(begun ? 'lost-midway' : 'no-answer', words).catch(() => {})
    await this.finish({ words: `It ended: ${words}.`, good: false })
  }
}
