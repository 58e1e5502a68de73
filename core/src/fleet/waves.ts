import { icsCalendar, icsText, icsTime } from '../edge/ics'
import { byText } from '../edge/order'

/** Updates of a fleet in rings: whom to skip, who goes when, inside which windows, and when it stops (brief 05 §8). */

export type WaveStatus = 'pending' | 'done' | 'stopped' | 'held'
export interface Wave {
  ring: string
  status: WaveStatus
  notBefore: string
  start: string
  end: string
  failures: number
  units: { id: string; start: string; end: string }[]
}
interface Skipped {
  id: string
  reason: string
}
export interface FleetWaves {
  waves: Wave[]
  skipped: Skipped[]
  ics?: string
}

/** A ring in time, without those who are in it: moments in ms. */
export interface RingTimes {
  ring: string
  status: WaveStatus
  notBefore: number
  start: number
  end: number
  /** How many units are in it. */
  all: number
}
/** A ring as it is planned: moments in ms, since there may be thousands and few of them are written out. */
export interface PlacedRing extends RingTimes {
  failures: number
  units: { id: string; start: number; end: number }[]
}
export interface PlacedRings {
  rings: PlacedRing[]
  skipped: Skipped[]
}

export const minuteMs = 60_000
const dayMs = 24 * 60 * minuteMs
const mostDays = 366
const bridgesRing = 'bridges'
export const days = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'] as const

/** What counts as a version: 1.5.1, v2, 1.5.1-beta+build. */
export const versionForm = /^v?\d+(\.\d+)*(-[^+]+)?(\+.*)?$/i
interface Version {
  parts: number[]
  suffix: string | null
}
const readVersion = (text: string): Version => {
  const plain = text.trim().replace(/^v/i, '').replace(/\+.*$/, '')
  const dash = plain.indexOf('-')
  return {
    parts: (dash < 0 ? plain : plain.slice(0, dash)).split('.').map(Number),
    suffix: dash < 0 ? null : plain.slice(dash + 1),
  }
}
/** Below 0 where `a` is older: numbers part by part, a suffix before none, suffixes as text. */
export function compareInstalled(a: string, b: string): number {
  const [x, y] = [readVersion(a), readVersion(b)]
  for (let i = 0; i < Math.max(x.parts.length, y.parts.length); i++) {
    const apart = (x.parts[i] ?? 0) - (y.parts[i] ?? 0)
    if (apart !== 0) return apart
  }
  if (x.suffix === y.suffix) return 0
  if (x.suffix === null) return 1
  return y.suffix === null ? -1 : byText(x.suffix, y.suffix)
}

/** A unit as the rings take it; `minutes` null: the policy's. */
export interface WaveUnit {
  id: string
  number: number
  installed: string
  target: string
  role: 'normal' | 'bridge' | 'powers-network' | 'powers-hub'
  canary: boolean
  held: boolean
  dependsOn: readonly string[]
  minutes: number | null
}
interface Ring {
  name: string
  count: number | null
  share: number | null
}
/** How it goes: moments and lengths in ms, minutes of a day from 0. */
export interface Policy {
  startMs: number
  offsetMs: number
  rings: readonly Ring[]
  soakHours: readonly number[]
  window: { days: readonly string[]; fromMin: number; toMin: number } | null
  minutesPerUnit: number
  maxPerWindow: number | null
  maxFailures: number
  maxFailShare: number
  blackouts: readonly { from: number; to: number }[]
  allowDowngrade: boolean
}

/** Above 0: it runs something newer than is meant. Thousands run the same few versions: each pair is compared once. */
function comparer(): (u: WaveUnit) => number {
  const known = new Map<string, number>()
  return ({ installed, target }) => {
    const pair = `${installed}\n${target}`
    const order = known.get(pair) ?? compareInstalled(installed, target)
    known.set(pair, order)
    return order
  }
}

function ownReason(u: WaveUnit, order: number, { allowDowngrade }: Policy): string | null {
  if (order === 0) return 'current'
  if (u.held) return 'held'
  if (order > 0 && !allowDowngrade) return 'newer'
  return u.role === 'powers-network' || u.role === 'powers-hub' ? 'manual' : null
}

/** Units in the order of their numbers, and whom each waits for: as places among them, since there may be thousands. */
interface Line {
  units: readonly WaveUnit[]
  waitsFor: readonly (readonly number[])[]
}

const nobody: readonly number[] = []
function lineOf(given: readonly WaveUnit[]): Line {
  const units = [...given].sort((a, b) => a.number - b.number)
  if (units.every((u) => u.dependsOn.length === 0)) return { units, waitsFor: units.map(() => nobody) }
  const at = new Map(units.map((u, i) => [u.id, i]))
  const waitsFor = units.map((u) => [...new Set(u.dependsOn)].flatMap((id) => at.get(id) ?? []))
  return { units, waitsFor }
}

/** Each time the first of `left` whose dependencies are placed already; those on a cycle, or behind one, are not in it. */
function inOrder(left: readonly number[], { units, waitsFor }: Line): number[] {
  const isLeft = new Uint8Array(units.length)
  for (const i of left) isLeft[i] = 1
  const awaits = new Int32Array(units.length)
  const behind = new Map<number, number[]>()
  for (const i of left)
    for (const d of waitsFor[i] as readonly number[]) {
      if (isLeft[d] === 0) continue
      awaits[i] = (awaits[i] as number) + 1
      const others = behind.get(d)
      if (others) others.push(i)
      else behind.set(d, [i])
    }
  const order: number[] = []
  const placed = new Uint8Array(units.length)
  // Nobody before `from` can be placed: it moves on, and back to whoever a placed one sets free.
  for (let from = 0; from < units.length; from++) {
    if (isLeft[from] === 0 || placed[from] === 1 || awaits[from] !== 0) continue
    placed[from] = 1
    order.push(from)
    let back = from
    for (const i of behind.get(from) ?? nobody) {
      awaits[i] = (awaits[i] as number) - 1
      if (awaits[i] === 0) back = Math.min(back, i - 1)
    }
    from = back
  }
  return order
}

/** Who is left out and why; the others in an order in which nobody comes before what they depend on. */
function sortOut(line: Line, policy: Policy): { skipped: Map<number, string>; order: number[] } {
  const { units, waitsFor } = line
  const skipped = new Map<number, string>()
  const orderOf = comparer()
  for (const [i, u] of units.entries()) {
    const reason = ownReason(u, orderOf(u), policy)
    if (reason) skipped.set(i, reason)
  }
  const blocks = (i: number) => skipped.has(i) && skipped.get(i) !== 'current'
  const waiting = units.flatMap((_, i) => ((waitsFor[i] as readonly number[]).length > 0 ? [i] : []))
  for (let again = true; again; ) {
    again = false
    for (const i of waiting) {
      if (skipped.has(i)) continue
      const blockers = (waitsFor[i] as readonly number[]).filter(blocks)
      if (blockers.length === 0) continue
      skipped.set(i, `blocked-by:${units[Math.min(...blockers)]?.id}`)
      again = true
    }
  }
  const left = units.flatMap((_, i) => (skipped.has(i) ? [] : [i]))
  const order = inOrder(left, line)
  if (order.length < left.length) {
    const placed = new Set(order)
    for (const i of left) if (!placed.has(i)) skipped.set(i, 'cycle')
  }
  return { skipped, order }
}

const inNoRing = -1

/** Which ring each unit goes in: an index into the rings, the bridges' ring behind them. */
function ringsOf(order: readonly number[], { units, waitsFor }: Line, rings: readonly Ring[]): Int32Array {
  const ringAt = new Int32Array(units.length).fill(inNoRing)
  const isBridge = (i: number) => units[i]?.role === 'bridge'
  let left = order.filter((i) => !isBridge(i)).sort((a, b) => a - b)
  for (const [r, ring] of rings.entries()) {
    const goesFirst = (i: number) => units[i]?.canary === true
    const line = r === 0 ? [...left.filter(goesFirst), ...left.filter((i) => !goesFirst(i))] : left
    const all = r === rings.length - 1 || (ring.count === null && ring.share === null)
    const wanted = all ? line.length : (ring.count ?? Math.ceil((ring.share ?? 0) * line.length - 1e-9))
    for (const i of line.slice(0, wanted)) ringAt[i] = r
    left = left.filter((i) => ringAt[i] === inNoRing)
  }
  for (const i of order) if (isBridge(i)) ringAt[i] = rings.length
  // In an order of dependencies one pass is enough.
  for (const i of order)
    for (const d of waitsFor[i] as readonly number[])
      if ((ringAt[d] as number) > (ringAt[i] as number)) ringAt[i] = ringAt[d] as number
  return ringAt
}

interface Window {
  from: number
  to: number
}

/** Windows from a moment on, in UTC; one without end where there is none. */
function* windowsFrom(ms: number, { window, offsetMs }: Policy): Generator<Window> {
  if (!window) {
    yield { from: Number.NEGATIVE_INFINITY, to: Number.POSITIVE_INFINITY }
    return
  }
  const firstDay = Math.floor((ms + offsetMs) / dayMs) - 1
  for (let day = firstDay; day <= firstDay + mostDays + 1; day++) {
    const name = days[(((day + 4) % 7) + 7) % 7] as string
    if (!window.days.includes(name)) continue
    const length =
      window.toMin > window.fromMin ? window.toMin - window.fromMin : window.toMin + 24 * 60 - window.fromMin
    const from = day * dayMs + window.fromMin * minuteMs - offsetMs
    yield { from, to: from + length * minuteMs }
  }
}

class Calendar {
  private readonly perWindow = new Map<number, number>()
  private last: Window | null = null
  constructor(private readonly policy: Policy) {}

  /** The earliest start from a moment on; null where there is none within a year. */
  place(from: number, ms: number): number | null {
    // One unit after the other: nearly always there is room where the last one was. Windows never overlap, so none before it is open.
    const beside = this.last && from >= this.last.from ? this.within(this.last, from, ms) : null
    if (beside !== null) return beside
    for (const w of windowsFrom(from, this.policy)) {
      const start = this.within(w, from, ms)
      if (start === null) continue
      this.last = w
      return start
    }
    return null
  }
  private within(w: Window, from: number, ms: number): number | null {
    const used = this.perWindow.get(w.from) ?? 0
    if (this.policy.maxPerWindow !== null && used >= this.policy.maxPerWindow) return null
    const start = this.clear(Math.max(from, w.from), ms)
    if (start + ms > w.to || start - from > mostDays * dayMs) return null
    this.perWindow.set(w.from, used + 1)
    return start
  }
  /** Moved behind every blackout that it would touch. */
  private clear(start: number, ms: number): number {
    let at = start
    for (let again = true; again; ) {
      const hit = this.policy.blackouts.find((b) => at < b.to && at + ms > b.from)
      again = hit !== undefined
      if (hit) at = hit.to
    }
    return at
  }
}

const two = (n: number): string => (n < 10 ? `0${n}` : String(n))
/** ISO 8601 to the second; a day is written once, for all of thousands of units on it. */
function stamper(): (ms: number) => string {
  let [day, words] = [Number.NaN, '']
  return (ms) => {
    const on = Math.floor(ms / dayMs)
    if (on !== day) [day, words] = [on, new Date(on * dayMs).toISOString().slice(0, -13)]
    const s = Math.floor((ms - on * dayMs) / 1000)
    return `${words}${two(Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}Z`
  }
}

function statusOf(
  ids: readonly string[],
  results: ReadonlyMap<string, boolean>,
  policy: Policy,
): { status: WaveStatus; failures: number } {
  const failures = ids.filter((id) => results.get(id) === false).length
  if (failures > policy.maxFailures || failures / ids.length > policy.maxFailShare)
    return { status: 'stopped', failures }
  return { status: ids.every((id) => results.has(id)) ? 'done' : 'pending', failures }
}

/**
 * The rings of a plan as a calendar file (RFC 5545).
 * @param rings moments in ms  @param startMs when the policy starts: its stamp
 */
export function ringsCalendar(
  rings: readonly Pick<RingTimes, 'ring' | 'start' | 'end' | 'all'>[],
  startMs: number,
): string {
  const stamp = stamper()
  const time = (ms: number) => icsTime(stamp(ms))
  return icsCalendar(
    'waves',
    rings.map((r) => [
      `UID:${icsText(r.ring)}-${time(r.start)}@fresh-coat.invalid`,
      `DTSTAMP:${time(startMs)}`,
      `DTSTART:${time(r.start)}`,
      `DTEND:${time(r.end)}`,
      `SUMMARY:Update ring ${icsText(r.ring)} (${r.all} units)`,
    ]),
  )
}

/** Null where somebody finds no slot within a year. */
export function placeRings(
  given: readonly WaveUnit[],
  policy: Policy,
  results: ReadonlyMap<string, boolean>,
): PlacedRings | null {
  const line = lineOf(given)
  const { units } = line
  const { skipped, order } = sortOut(line, policy)
  const ringAt = ringsOf(order, line, policy.rings)
  const calendar = new Calendar(policy)
  const rings: PlacedRing[] = []
  let notBefore = policy.startMs
  let halted = false
  for (let r = 0; r <= policy.rings.length; r++) {
    const ring = order.filter((i) => ringAt[i] === r)
    if (ring.length === 0) continue
    let cursor = notBefore
    const placed: PlacedRing['units'] = []
    for (const i of ring) {
      const { id, minutes } = units[i] as WaveUnit
      const ms = (minutes ?? policy.minutesPerUnit) * minuteMs
      const start = calendar.place(cursor, ms)
      if (start === null) return null
      cursor = start + ms
      placed.push({ id, start, end: cursor })
    }
    const { status, failures } = statusOf(
      placed.map((u) => u.id),
      results,
      policy,
    )
    rings.push({
      ring: policy.rings[r]?.name ?? bridgesRing,
      status: halted ? 'held' : status,
      notBefore,
      start: placed[0]?.start ?? notBefore,
      end: cursor,
      all: placed.length,
      failures,
      units: placed,
    })
    halted ||= status === 'stopped'
    const soak = policy.soakHours[Math.min(r, policy.soakHours.length - 1)] ?? 0
    notBefore = cursor + soak * 60 * minuteMs
  }
  return {
    rings,
    skipped: units.flatMap(({ id }, i) => (skipped.has(i) ? [{ id, reason: skipped.get(i) as string }] : [])),
  }
}

/** The rings with their moments written out, ISO 8601 to the second. */
export function writtenRings({ rings, skipped }: PlacedRings): FleetWaves {
  const stamp = stamper()
  return {
    waves: rings.map(({ ring, status, notBefore, start, end, failures, units }) => ({
      ring,
      status,
      notBefore: stamp(notBefore),
      start: stamp(start),
      end: stamp(end),
      failures,
      units: units.map((u) => ({ id: u.id, start: stamp(u.start), end: stamp(u.end) })),
    })),
    skipped,
  }
}
