import { changedFields, mergeFields } from '@fresh-coat/core/edge/patch'
import type { Refusal, Sent } from '@/components/send'

/** One record as it is typed: what the server has, what is here, and how the one becomes the other. No page in it. */

export interface Version<T> {
  data: T
  version: number
}

export type SaveState = 'saved' | 'typing' | 'saving' | 'away' | 'conflict' | 'refused'

export interface DraftState<T> {
  /** As the server has it, as far as this page knows. */
  base: Version<T>
  mine: T
  state: SaveState
  error: Refusal | null
  /** Another version that changed the same fields, and which they are: a person chooses. */
  other: (Version<T> & { fields: string[] }) | null
}

export type SaveAttempt = (fields: object, version: number, keepalive: boolean) => Promise<Sent>

/** After this many versions by others in a row it is said, not tried for ever. */
const mostMerges = 5

export class Draft<T extends object> {
  private current: DraftState<T>
  private readonly listeners = new Set<() => void>()
  private running: Promise<boolean> | null = null

  constructor(
    base: Version<T>,
    private readonly attempt: SaveAttempt,
  ) {
    this.current = { base, mine: base.data, state: 'saved', error: null, other: null }
  }

  get snapshot(): DraftState<T> {
    return this.current
  }
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
  private set(change: Partial<DraftState<T>>): void {
    this.current = { ...this.current, ...change }
    for (const listener of this.listeners) listener()
  }

  /** Fields that are typed and not with the server. */
  get unsaved(): Partial<T> {
    return changedFields(this.current.base.data, this.current.mine)
  }
  get isDirty(): boolean {
    return Object.keys(this.unsaved).length > 0
  }

  type(part: Partial<T>): void {
    const mine = { ...this.current.mine, ...part }
    const waits = this.current.state === 'conflict' || this.current.state === 'away'
    // What is there already, chosen again, is nothing to wait for.
    const same = this.running === null && Object.keys(changedFields(this.current.base.data, mine)).length === 0
    this.set({ mine, state: waits ? this.current.state : same ? 'saved' : 'typing' })
  }

  /** What the server has now, from a page that was loaded or a command that was answered. */
  offer(theirs: Version<T>, deliberate = false): void {
    if (theirs.version < this.current.base.version && !deliberate) return
    if (!this.isDirty) return this.set({ base: theirs, mine: theirs.data, state: 'saved', other: null })
    // What was typed while the command was on its way stays, over what it made of the record.
    if (deliberate)
      return this.set({ base: theirs, mine: { ...theirs.data, ...this.unsaved }, state: 'typing', other: null })
    this.meet(theirs)
  }

  /** What was typed before a reload: what the server has not, comes back; what both changed is asked. */
  restore(kept: { base: T; mine: T }): boolean {
    const { data, conflicts } = mergeFields(kept.base, kept.mine, this.current.base.data)
    const isNew = Object.keys(changedFields(this.current.mine, data)).length > 0
    if (!isNew || Object.keys(changedFields(this.current.base.data, data)).length === 0) return false
    if (conflicts.length === 0) this.set({ mine: data, state: 'typing' })
    else this.set({ mine: data, state: 'conflict', other: { ...this.current.base, fields: conflicts } })
    return true
  }

  /** Puts another version under what is typed here; true when nothing has to be asked. */
  private meet(theirs: Version<T>): boolean {
    const { base, mine } = this.current
    const merged = mergeFields(base.data, mine, theirs.data)
    if (merged.conflicts.length === 0) {
      this.set({ base: theirs, mine: merged.data })
      return true
    }
    this.set({ mine: merged.data, state: 'conflict', other: { ...theirs, fields: merged.conflicts } })
    return false
  }

  /**
   * Sends what is typed; true when the server has all of it. Runs one after the other, and takes along what is typed
   * while it runs. A refusal is never sent again by itself.
   */
  save(keepalive = false): Promise<boolean> {
    this.running ??= this.sendAll(keepalive).finally(() => {
      this.running = null
    })
    return this.running
  }

  private async sendAll(keepalive: boolean): Promise<boolean> {
    for (let merges = 0; this.isDirty; ) {
      if (this.current.state === 'conflict') return false
      const fields = this.unsaved
      this.set({ state: this.current.state === 'away' ? 'away' : 'saving' })
      const sent = await this.attempt(fields, this.current.base.version, keepalive)
      if (sent.state === 'away') {
        this.set({ state: 'away' })
        return false
      }
      if (sent.state === 'ok') {
        const base = { data: { ...this.current.base.data, ...fields }, version: sent.value.version as number }
        this.set({ base, error: null, state: 'typing' })
        continue
      }
      if (sent.error.code === 'stale' && merges++ < mostMerges) {
        // Without the row that won, there is a moment to wait for it: the same thing was being made just now.
        const theirs = sent.error.current as Version<T> | undefined
        if (!theirs || this.meet(theirs)) continue
        return false
      }
      this.set({ state: 'refused', error: sent.error })
      return false
    }
    this.set({ state: 'saved', error: null })
    return true
  }

  /** What is here stands, over the version that somebody else saved. */
  keepMine(): void {
    const { other } = this.current
    if (other) this.set({ base: { data: other.data, version: other.version }, other: null, state: 'typing' })
  }

  takeOther(): void {
    const { other } = this.current
    if (!other) return
    const base = { data: other.data, version: other.version }
    this.set({ base, mine: other.data, other: null, state: 'saved', error: null })
  }
}
