import type { Filled, ReadMapping, Scalar } from './mapping'

/** What one unit says of itself over time: there, gone, silent, fluttering; restarts, its rhythm, its clock (brief 05 §5). */

/** Milliseconds of the listener's own clock: the clock of a unit orders nothing. */
type Ms = number
const minutes = (n: number): Ms => n * 60_000

const gapsKept = 20
const gapsWanted = 5
const leastStale: Ms = 90_000
const flutters = 4
const flutterWithin = minutes(10)
const calmAfter = minutes(30)
const beatsKept = minutes(15)
/** Closer together than this, two are one in the picture. */
const beatApart: Ms = 1500
/** So many fields a unit may have: a stranger on its topics must not fill the memory. */
const mostFields = 200
const mostTopics = 20_000
const mostMessagesASecond = 50
/** A clock further off than this is told of, seconds. */
export const skewTold = 120
const duplicateWithin: Ms = 2000

export interface Happening {
  at: Ms
  kind: 'online' | 'offline' | 'restart' | 'update' | 'state' | 'event' | 'asked' | 'flapping' | 'calm'
  field?: string
  value?: Scalar
  was?: Scalar | null
}

export interface LiveState {
  /** The last value of each field, and when it came. */
  fields: Record<string, { value: Scalar; at: Ms }>
  /** What its broker or itself said of its being there; null where neither did. */
  online: boolean | null
  /** The last that was not kept from before; null while nothing was. */
  heardAt: Ms | null
  periodicAt: Ms | null
  gaps: number[]
  /** When it came and went. */
  changes: Ms[]
  flapping: boolean
  restarts: number
  /** Seconds that its clock is ahead. */
  skewS: number | null
  /** Messages of the last quarter of an hour. */
  beats: Ms[]
}

export const silentState = (): LiveState => ({
  fields: {},
  online: null,
  heardAt: null,
  periodicAt: null,
  gaps: [],
  changes: [],
  flapping: false,
  restarts: 0,
  skewS: null,
  beats: [],
})

/** A state that what is heard later leaves alone: lists and values are replaced there, only the fields are set in place. */
export const asItIs = (state: LiveState): LiveState => ({ ...state, fields: { ...state.fields } })

export interface Heard {
  at: Ms
  filled: readonly Filled[]
  /** Kept by the broker from before: it tells a state, not that anybody is there. */
  retained: boolean
  periodic: boolean
}

function cameOrWent(state: LiveState, at: Ms, is: boolean): Happening[] {
  if (state.online === is) return []
  const first = state.online === null
  state.online = is
  if (first) return [{ at, kind: is ? 'online' : 'offline' }]
  state.changes = [...state.changes.filter((c) => at - c < calmAfter), at]
  const out: Happening[] = [{ at, kind: is ? 'online' : 'offline' }]
  if (!state.flapping && state.changes.filter((c) => at - c < flutterWithin).length >= flutters) {
    state.flapping = true
    out.push({ at, kind: 'flapping' })
  }
  return out
}

/** An uptime that falls is a restart; another firmware with it is an update. */
function restarted(state: LiveState, at: Ms, filled: readonly Filled[]): Happening[] {
  const up = filled.find((f) => f.field === 'upS')?.value
  const before = state.fields.upS?.value
  if (typeof up !== 'number' || typeof before !== 'number' || up >= before) return []
  state.restarts++
  const [was, fw] = [state.fields.fw?.value ?? null, filled.find((f) => f.field === 'fw')?.value]
  return fw !== undefined && was !== null && fw !== was
    ? [{ at, kind: 'update', field: 'fw', value: fw, was }]
    : [{ at, kind: 'restart' }]
}

function skewOf(filled: readonly Filled[], at: Ms): number | null {
  const told = filled.find((f) => f.field === 'at')?.value
  const ms = typeof told === 'number' ? told * 1000 : typeof told === 'string' ? Date.parse(told) : Number.NaN
  return Number.isFinite(ms) ? Math.round((ms - at) / 1000) : null
}

function beat(state: LiveState, { at, periodic }: Heard): void {
  state.heardAt = at
  if (at - (state.beats.at(-1) ?? Number.NEGATIVE_INFINITY) >= beatApart)
    state.beats = [...state.beats.filter((b) => at - b < beatsKept), at]
  if (!periodic) return
  if (state.periodicAt !== null && at > state.periodicAt)
    state.gaps = [...state.gaps, (at - state.periodicAt) / 1000].slice(-gapsKept)
  state.periodicAt = at
}

/** Takes in what was heard, changes the state, and tells what happened. What was retained is a state, never a happening. */
export function hear(state: LiveState, heard: Heard): Happening[] {
  const { at, filled, retained } = heard
  const out: Happening[] = []
  if (!retained) {
    out.push(...restarted(state, at, filled))
    beat(state, heard)
    const skew = skewOf(filled, at)
    if (skew !== null) state.skewS = skew
  }
  for (const { field, value, event } of filled) {
    if (event) {
      if (!retained) out.push({ at, kind: 'event', field, value })
      continue
    }
    if (field === 'online') {
      const told = cameOrWent(state, at, value === true)
      if (!retained) out.push(...told)
      continue
    }
    if (!Object.hasOwn(state.fields, field) && Object.keys(state.fields).length >= mostFields) continue
    const was = Object.hasOwn(state.fields, field) ? (state.fields[field]?.value ?? null) : null
    state.fields[field] = { value, at }
    if (!retained && field.startsWith('channel/') && was !== value) out.push({ at, kind: 'state', field, value, was })
  }
  return out
}

/** Seconds between two periodic messages: the median of the last that were heard, the profile's until there are five. */
export function usualGap(state: Pick<LiveState, 'gaps'>, { usualS }: Pick<ReadMapping, 'usualS'>): number {
  if (state.gaps.length < gapsWanted) return usualS
  const sorted = [...state.gaps].sort((a, b) => a - b)
  const half = sorted.length >> 1
  const upper = sorted[half] ?? usualS
  return sorted.length % 2 ? upper : ((sorted[half - 1] ?? upper) + upper) / 2
}

export type Presence = 'online' | 'offline' | 'stale' | 'unknown'
export interface Standing {
  presence: Presence
  flapping: boolean
  /** Seconds; null for a unit that speaks only when something happens. */
  usualS: number | null
  /** When it will be stale if nothing comes; null where silence says nothing. */
  staleAt: Ms | null
}

/** How a unit stands at a moment, by its own rhythm. */
export function standingAt(state: LiveState, mapping: Pick<ReadMapping, 'will' | 'usualS'>, now: Ms): Standing {
  const rhythm = state.periodicAt !== null
  const usualS = rhythm ? usualGap(state, mapping) : null
  // A unit with a will and no rhythm may rightly be silent for a week.
  const judged = rhythm || !mapping.will
  const heard = state.heardAt
  const staleAt = judged && heard !== null ? heard + Math.max(3000 * (usualS ?? mapping.usualS), leastStale) : null
  const stale = staleAt !== null && now >= staleAt
  const presence =
    state.online === false
      ? 'offline'
      : stale
        ? 'stale'
        : state.online === true
          ? 'online'
          : // Its rhythm goes on, though nobody has said in so many words that it is there.
            staleAt !== null
            ? 'online'
            : 'unknown'
  const flapping = state.flapping && state.changes.some((c) => now - c < calmAfter)
  return { presence, flapping, usualS, staleAt }
}

/** The flutter is over when nothing came or went for half an hour; true when it ends now. */
export function calmed(state: LiveState, now: Ms): boolean {
  if (!state.flapping || state.changes.some((c) => now - c < calmAfter)) return false
  state.flapping = false
  return true
}

/** Lets at most so many messages of a unit through in a second; beyond that only states count, the latest of each. */
export class Rate {
  private second = -1
  private taken = 0
  /** Messages that were too many. */
  dropped = 0
  allows(at: Ms, isState: boolean): boolean {
    const second = Math.floor(at / 1000)
    if (second !== this.second) [this.second, this.taken] = [second, 0]
    this.taken++
    if (this.taken <= mostMessagesASecond) return true
    this.dropped++
    return isState
  }
}

/** Messages that a broker delivered twice: the same topic and text within two seconds, flagged as a repeat. */
export class Repeats {
  private readonly last = new Map<string, { text: string; at: Ms }>()
  is(topic: string, text: string, dup: boolean, at: Ms): boolean {
    const before = this.last.get(topic)
    if (this.last.size >= mostTopics) this.last.clear()
    this.last.set(topic, { text, at })
    return dup && before !== undefined && before.text === text && at - before.at < duplicateWithin
  }
}
