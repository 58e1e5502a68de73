import type { Run } from '@fresh-coat/core/dump/sectors'
import type { LinkFinding, LinkState } from '@fresh-coat/core/link/flow'
import type { HeardLine } from '@fresh-coat/core/link/heard'
import type { Identity } from '@fresh-coat/core/link/identity'
import type { QuestionKind } from '@fresh-coat/core/link/questions'
import type { WholeWritten } from '@fresh-coat/core/link/whole-write'

/** What the desk says of itself, apart from the desk: every page of a unit looks at it, and few of them work at it. */
export type Phase =
  | 'idle'
  | 'opening'
  | 'calling'
  | 'working'
  | 'keeping'
  /** The line is gone in the middle: it goes on when a person says so. */
  | 'lost'
  | 'listening'
  | 'over'

export interface Progress {
  done: number
  total: number
  bytesPerSecond: number | null
  secondsLeft: number | null
}
export interface DeskView {
  phase: Phase
  what: 'read' | 'write' | 'listen' | 'measure' | null
  /** Which unit it is about; null in practice. */
  unitId: string | null
  state: LinkState | null
  rate: number
  paused: boolean
  /** One read is whole: the chip has to be given its reset for the second. */
  again: boolean
  who: Identity | null
  /** While it is called: what comes instead of an answer. */
  heard: LinkFinding | null
  findings: LinkFinding[]
  /** Which read it is. */
  read: 1 | 2 | null
  progress: Progress | null
  /** The map so far of the read that goes on, or of the first one. */
  runs: Run[]
  flashBytes: number | null
  /** Sectors of the second read that differ from the first. */
  differing: number[]
  retries: number
  resumes: number
  /** How it ended, in words. */
  ended: { words: string; good: boolean } | null
  written: WholeWritten | null
  /** What was heard. */
  text: string
  /** The same as lines with their times, and the last bytes of it. */
  lines: readonly HeardLine[]
  tail: Uint8Array
  /** Bytes that came before those. */
  before: number
  /** The question that waits for its answer. */
  asking: QuestionKind | null
}
export const idleDesk: DeskView = {
  phase: 'idle',
  what: null,
  unitId: null,
  state: null,
  rate: 0,
  paused: false,
  again: false,
  who: null,
  heard: null,
  findings: [],
  read: null,
  progress: null,
  runs: [],
  flashBytes: null,
  differing: [],
  retries: 0,
  resumes: 0,
  ended: null,
  written: null,
  text: '',
  lines: [],
  tail: new Uint8Array(0),
  before: 0,
  asking: null,
}

export const isBusy = ({ phase }: DeskView): boolean => phase !== 'idle' && phase !== 'over'

const publishMs = 250

export class DeskStore {
  private view: DeskView = idleDesk
  private readonly listeners = new Set<() => void>()
  private publishedAt = 0
  private timer: ReturnType<typeof setTimeout> | null = null
  /** Ends whatever goes on, and closes the port. */
  close: () => Promise<void> = async () => {}

  readonly subscribe = (heard: () => void): (() => void) => {
    this.listeners.add(heard)
    return () => this.listeners.delete(heard)
  }
  readonly snapshot = (): DeskView => this.shown
  /** What the listeners were told last: a page must not see another view than the one that it was told of. */
  private shown: DeskView = idleDesk

  /** What changes often is told four times a second, what changes a phase at once. */
  show(change: Partial<DeskView>, now: boolean): void {
    this.view = { ...this.view, ...change }
    const wait = this.publishedAt + publishMs - performance.now()
    if (!now && wait > 0) {
      this.timer ??= setTimeout(() => this.publish(), wait)
      return
    }
    this.publish()
  }
  private publish(): void {
    if (this.timer !== null) clearTimeout(this.timer)
    this.timer = null
    this.publishedAt = performance.now()
    this.shown = this.view
    for (const heard of this.listeners) heard()
  }
  /** As it is, told or not. */
  now(): DeskView {
    return this.view
  }
}

/** One port at a time, whatever page is on screen. */
export const deskStore = new DeskStore()
