import { z } from 'zod'
import { type Outcome, parseInput, refusal, refuse, shapeCodes } from '../edge/fault'
import { roundTo } from '../edge/round'
import {
  channelOf,
  checkNames,
  Definition,
  type Do,
  type If,
  type InputEvent,
  type Settled,
  settled,
  type When,
} from './definition'

/** What a unit does over a timeline of inputs, network and mains: deterministic, in whole milliseconds (brief 03 §7). */

export type Entry = { t: number; input: string; level: 0 | 1 } | { t: number; net: 0 | 1 } | { t: number; mains: 0 | 1 }
export type RunEvent =
  | { t: number; ch: number; to: 'on' | 'off'; why: string }
  | { t: number; motor: string; pos: number }
  | { t: number; publish: string; value: string; why: string; lost?: true }
export interface BehaviourRun {
  events: RunEvent[]
  final: Record<string, 'on' | 'off'>
  pos: Record<string, number>
}

/** Rules that set each other off without end. */
export class Loop extends Error {}

const mostInOneGo = 100
const mostExpiries = 1_000_000
const hair = 1e-9

type Raised =
  | { kind: 'input'; input: string; event: InputEvent }
  | { kind: 'timer'; timer: string }
  | { kind: 'channel'; ch: number; to: 'on' | 'off' }
  | { kind: 'net'; to: 'up' | 'down' }
  | { kind: 'boot' }

interface Expiry {
  t: number
  order: number
  /** It was called off. */
  off: boolean
  run: () => void
}

interface Channel {
  on: boolean
  /** What it was when the mains went. */
  remembered: boolean
  onSince: number
  lastOff: number | null
  waiting: Expiry | null
  ends: Expiry[]
}
interface Input {
  raw: 0 | 1
  level: 0 | 1
  settling: Expiry | null
  holding: Expiry | null
  /** A hold was told, or the press began before the unit did: its end is no short press. */
  used: boolean
}

/** Soonest first, and of one moment the one that was scheduled first. */
class Agenda {
  private heap: Expiry[] = []
  private order = 0

  private before(a: Expiry, b: Expiry): boolean {
    return a.t < b.t || (a.t === b.t && a.order < b.order)
  }
  add(t: number, run: () => void): Expiry {
    const e: Expiry = { t, order: this.order++, off: false, run }
    const { heap } = this
    let i = heap.push(e) - 1
    while (i > 0) {
      const up = (i - 1) >> 1
      if (!this.before(e, heap[up] as Expiry)) break
      heap[i] = heap[up] as Expiry
      i = up
    }
    heap[i] = e
    return e
  }
  drop(e: Expiry | null): void {
    if (e) e.off = true
  }
  clear(): void {
    this.heap = []
  }
  /** The next one before a moment, or at it too, taken out. */
  take(until: number, including: boolean): Expiry | null {
    for (;;) {
      const [first] = this.heap
      if (!first || first.t > until || (first.t === until && !including)) return null
      const last = this.heap.pop() as Expiry
      if (this.heap.length > 0) this.sink(last)
      if (!first.off) return first
    }
  }
  private sink(e: Expiry): void {
    const { heap } = this
    let i = 0
    for (;;) {
      let down = 2 * i + 1
      if (down >= heap.length) break
      if (down + 1 < heap.length && this.before(heap[down + 1] as Expiry, heap[down] as Expiry)) down++
      if (!this.before(heap[down] as Expiry, e)) break
      heap[i] = heap[down] as Expiry
      i = down
    }
    heap[i] = e
  }
}

class Unit {
  readonly events: RunEvent[] = []
  private now = 0
  private powered = true
  private started = true
  private net: 0 | 1 = 1
  private readonly agenda = new Agenda()
  private readonly channels: Map<number, Channel>
  private readonly inputs: Map<string, Input>
  private readonly timers = new Map<string, Expiry>()
  private readonly positions: Map<string, number>
  private raised: Raised[] = []

  constructor(private readonly def: Settled) {
    this.channels = new Map(
      def.channels.map((c) => [
        c.ch,
        { on: false, remembered: false, onSince: 0, lastOff: null, waiting: null, ends: [] },
      ]),
    )
    this.inputs = new Map(
      def.inputs.map((i) => [i.id, { raw: 0, level: 0, settling: null, holding: null, used: false }]),
    )
    this.positions = new Map(def.motors.map((m) => [m.id, m.pos]))
  }

  /** Everything before a moment that was scheduled, or at it too. */
  private expire(until: number, including: boolean): void {
    for (let count = 0; ; count++) {
      const next = this.agenda.take(until, including)
      if (!next) return
      if (count > mostExpiries) throw new Loop()
      this.now = next.t
      next.run()
      this.handle()
    }
  }
  run(timeline: readonly Entry[], until: number): void {
    for (const entry of timeline) {
      if (entry.t > until) break
      // What is scheduled for this very moment comes behind what the timeline has there.
      this.expire(entry.t, false)
      this.now = entry.t
      this.enter(entry)
      this.handle()
    }
    this.expire(until, true)
  }
  private enter(entry: Entry): void {
    if ('input' in entry) this.level(entry.input, entry.level)
    else if ('net' in entry) this.network(entry.net)
    else if (entry.mains === 0) this.powerOff()
    else this.powerOn()
  }

  private network(net: 0 | 1): void {
    if (net === this.net) return
    this.net = net
    if (this.started) this.raised.push({ kind: 'net', to: net === 1 ? 'up' : 'down' })
  }

  private level(id: string, raw: 0 | 1): void {
    const input = this.inputs.get(id)
    if (!input || input.raw === raw) return
    input.raw = raw
    if (!this.started) return
    this.agenda.drop(input.settling)
    input.settling = null
    if (raw === input.level) return
    const { debounceMs } = this.inputOf(id)
    if (debounceMs === 0) this.accept(id, input)
    else
      input.settling = this.agenda.add(this.now + debounceMs, () => {
        input.settling = null
        this.accept(id, input)
      })
  }
  private inputOf(id: string): Settled['inputs'][number] {
    return this.def.inputs.find((i) => i.id === id) as Settled['inputs'][number]
  }
  private accept(id: string, input: Input): void {
    const { holdMs, react } = this.inputOf(id)
    const tell = (event: InputEvent) => this.raised.push({ kind: 'input', input: id, event })
    input.level = input.raw
    if (input.level === 1) {
      input.used = false
      tell('press')
      tell('change')
      if (react === 'instant' && holdMs === 0) tell('short')
      if (holdMs > 0)
        input.holding = this.agenda.add(this.now + holdMs, () => {
          input.holding = null
          input.used = true
          tell('hold')
        })
      return
    }
    this.agenda.drop(input.holding)
    input.holding = null
    tell('release')
    tell('change')
    if ((holdMs > 0 || react === 'release') && !input.used) tell('short')
    input.used = false
  }

  private powerOff(): void {
    if (!this.powered) return
    if (this.started) for (const c of this.channels.values()) c.remembered = c.on
    this.powered = false
    this.started = false
    this.agenda.clear()
    this.timers.clear()
    for (const c of this.channels.values()) c.waiting = null
    for (const i of this.inputs.values()) {
      i.settling = null
      i.holding = null
      i.level = 0
    }
    for (const ch of this.inOrder()) if (this.channels.get(ch)?.on) this.off(ch, 'mains-lost', true)
  }
  private inOrder(): number[] {
    return [...this.channels.keys()].sort((a, b) => a - b)
  }
  private powerOn(): void {
    if (this.powered) return
    this.powered = true
    if (this.def.bootMs === 0) this.start()
    else this.agenda.add(this.now + this.def.bootMs, () => this.start())
  }
  private start(): void {
    this.started = true
    for (const i of this.inputs.values()) {
      i.level = i.raw
      i.used = i.raw === 1
    }
    for (const ch of this.inOrder()) {
      const { onPower } = this.def.channels.find((c) => c.ch === ch) as Settled['channels'][number]
      if (onPower === 'on') this.on(ch, 'power-on')
      else if (onPower === 'last' && this.channels.get(ch)?.remembered) this.on(ch, 'power-on-last')
    }
    this.raised.push({ kind: 'boot' })
  }

  /** Rules hear what was raised, first in first out. */
  private handle(): void {
    for (let count = 0; this.raised.length > 0; count++) {
      if (count >= mostInOneGo) throw new Loop()
      const [event, ...rest] = this.raised
      this.raised = rest
      for (const rule of this.def.rules)
        if (matches(rule.when, event as Raised) && (rule.if ?? []).every((c) => this.holds(c)))
          for (const act of rule.do) this.act(act, rule.id, event as Raised)
    }
  }
  private holds(c: If): boolean {
    if ('ch' in c) return (this.channels.get(c.ch)?.on === true) === (c.is === 'on')
    if ('input' in c) return (this.inputs.get(c.input)?.level === 1) === (c.is === 'on')
    if ('net' in c) return (this.net === 1) === (c.net === 'up')
    return this.timers.has(c.timer) === (c.is === 'running')
  }
  private act(act: Do, rule: string, event: Raised): void {
    if ('set' in act) this.set(act.ch, act.set, rule)
    else if ('timer' in act) this.startTimer(act.timer, act.ms, act.policy ?? 'restart')
    else if ('cancel' in act) {
      this.agenda.drop(this.timers.get(act.cancel) ?? null)
      this.timers.delete(act.cancel)
    } else
      this.events.push({
        t: this.now,
        publish: act.publish,
        value: this.worded(act.value, event),
        why: rule,
        ...(this.net === 0 ? { lost: true as const } : {}),
      })
  }
  private worded(value: string, event: Raised): string {
    if (value === '$level') return event.kind === 'input' ? String(this.inputs.get(event.input)?.level ?? '') : ''
    const ch = channelOf(value)
    return ch === null ? value : this.channels.get(ch)?.on ? 'on' : 'off'
  }
  private startTimer(id: string, ms: number, policy: 'restart' | 'keep'): void {
    const running = this.timers.get(id)
    if (running && policy === 'keep') return
    this.agenda.drop(running ?? null)
    this.timers.set(
      id,
      this.agenda.add(this.now + ms, () => {
        this.timers.delete(id)
        this.raised.push({ kind: 'timer', timer: id })
      }),
    )
  }

  private set(ch: number, to: 'on' | 'off' | 'toggle', why: string): void {
    const c = this.channels.get(ch)
    if (!c) return
    const on = to === 'toggle' ? !(c.on || c.waiting) : to === 'on'
    if (on) this.on(ch, why)
    else this.off(ch, why)
  }
  private on(ch: number, why: string): void {
    const c = this.channels.get(ch)
    if (!c || c.on || c.waiting) return
    let from = this.now
    for (const { chs, deadMs } of this.def.interlock.filter((g) => g.chs.includes(ch)))
      for (const other of chs.filter((o) => o !== ch)) {
        const o = this.channels.get(other)
        if (!o) continue
        this.stopWaiting(o)
        if (o.on) this.off(other, 'interlock')
        if (o.lastOff !== null) from = Math.max(from, o.lastOff + deadMs)
      }
    if (from > this.now)
      c.waiting = this.agenda.add(from, () => {
        c.waiting = null
        this.switchOn(ch, c, why)
      })
    else this.switchOn(ch, c, why)
  }
  private stopWaiting(c: Channel): void {
    this.agenda.drop(c.waiting)
    c.waiting = null
  }
  private switchOn(ch: number, c: Channel, why: string): void {
    c.on = true
    c.onSince = this.now
    this.events.push({ t: this.now, ch, to: 'on', why })
    this.raised.push({ kind: 'channel', ch, to: 'on' })
    const { pulseMs } = this.def.channels.find((d) => d.ch === ch) as Settled['channels'][number]
    if (pulseMs > 0) c.ends.push(this.agenda.add(this.now + pulseMs, () => this.off(ch, 'pulse')))
    for (const m of this.def.motors) {
      if (m.open !== ch && m.close !== ch) continue
      const pos = this.positions.get(m.id) as number
      const [left, travel] = m.open === ch ? [100 - pos, m.openMs] : [pos, m.closeMs]
      const ms = Math.ceil((left * travel) / 100 - hair) + m.marginMs
      c.ends.push(this.agenda.add(this.now + ms, () => this.off(ch, 'travel-end')))
    }
  }
  private off(ch: number, why: string, silent = false): void {
    const c = this.channels.get(ch)
    if (!c) return
    this.stopWaiting(c)
    if (!c.on) return
    for (const e of c.ends) this.agenda.drop(e)
    c.ends = []
    c.on = false
    c.lastOff = this.now
    this.events.push({ t: this.now, ch, to: 'off', why })
    if (!silent) this.raised.push({ kind: 'channel', ch, to: 'off' })
    for (const m of this.def.motors) {
      if (m.open !== ch && m.close !== ch) continue
      const moved = 100 * (this.now - c.onSince)
      const pos = (this.positions.get(m.id) as number) + (m.open === ch ? moved / m.openMs : -moved / m.closeMs)
      const at = Math.min(100, Math.max(0, pos))
      this.positions.set(m.id, at)
      this.events.push({ t: this.now, motor: m.id, pos: roundTo(at, 1) })
    }
  }

  get final(): Record<string, 'on' | 'off'> {
    return Object.fromEntries(this.inOrder().map((ch) => [String(ch), this.channels.get(ch)?.on ? 'on' : 'off']))
  }
  get pos(): Record<string, number> {
    return Object.fromEntries([...this.positions].map(([id, pos]) => [id, roundTo(pos, 1)]))
  }
}

function matches(when: When, event: Raised): boolean {
  if ('input' in when) return event.kind === 'input' && event.input === when.input && event.event === when.event
  if ('timer' in when) return event.kind === 'timer' && event.timer === when.timer
  if ('ch' in when) return event.kind === 'channel' && event.ch === when.ch && event.to === when.becomes
  if ('net' in when) return event.kind === 'net' && event.to === when.net
  return event.kind === 'boot'
}

/** A timeline sorted by its times, of names that exist. @throws Loop */
export function runUnit(def: Settled, timeline: readonly Entry[], until: number): BehaviourRun {
  const unit = new Unit(def)
  unit.run(timeline, until)
  return { events: unit.events, final: unit.final, pos: unit.pos }
}

const bit = z.union([z.literal(0), z.literal(1)])
const time = z.number().superRefine((t, context) => {
  if (!Number.isInteger(t) || t < 0) refuse(context, 'time', [], 'Times are whole milliseconds from 0')
})
/** One entry of a timeline. */
export const EntryShape = z.union([
  z.object({ t: time, input: z.string(), level: bit }),
  z.object({ t: time, net: bit }),
  z.object({ t: time, mains: bit }),
])
const Request = z
  .object({
    def: Definition,
    timeline: z
      .array(EntryShape)
      .max(200_000)
      .superRefine((timeline, context) => {
        for (let i = 1; i < timeline.length; i++)
          if ((timeline[i]?.t ?? 0) < (timeline[i - 1]?.t ?? 0))
            refuse(context, 'order', [i, 't'], `Timeline entry ${i + 1} is earlier than the one before`)
      }),
    until: time,
  })
  .superRefine(({ def, timeline }, context) => {
    const names = checkNames(def, context, ['def'])
    for (const [i, entry] of timeline.entries())
      if ('input' in entry && !names.inputs.has(entry.input))
        refuse(context, 'ref', ['timeline', i, 'input'], `There is no input '${entry.input}'`)
  })

/** `behaviour run`: what the outputs do, and why. */
export function runBehaviour(input: unknown): Outcome<BehaviourRun> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { def, timeline, until } = parsed.value
  try {
    return { ok: true, value: runUnit(settled(def), timeline, until) }
  } catch (cause) {
    if (cause instanceof Loop) return refusal('loop', '/def/rules', 'Rules set each other off without end')
    throw cause
  }
}
