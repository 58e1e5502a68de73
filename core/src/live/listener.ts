import { type Filled, fill, type ReadMapping } from './mapping'
import { escaped, jsonOf, type RefusedBecause, textOf } from './payload'
import {
  asItIs,
  calmed,
  type Happening,
  hear,
  type LiveState,
  type Presence,
  Rate,
  Repeats,
  type Standing,
  silentState,
  standingAt,
} from './standing'

/**
 * All units of a site at once: messages in, what changed out. It holds no connection and no database: what a database did not
 * take yet stays here, states as one per unit, readings as sums of their hour, happenings in their order up to a bound.
 */
export interface LiveUnit {
  id: string
  /** The level of a topic that is its own. */
  slug: string
  /** Which of the mappings its firmware speaks; the site’s own tree is the first. */
  mapping: number
}
export interface Message {
  topic: string
  bytes: Uint8Array
  retained: boolean
  dup: boolean
  at: number
}
export interface HourSum {
  unit: string
  /** Start of the hour, ms. */
  hour: number
  messages: number
  readings: number
  sumW: number
  mostW: number
  firstKWh: number | null
  lastKWh: number | null
}
export interface Sender {
  /** Its topic up to its own level. */
  prefix: string
  at: number
  messages: number
  /** The last payload, escaped. */
  sample: string
}
export interface Drained {
  units: { id: string; state: LiveState; standing: Standing }[]
  happenings: (Happening & { unit: string })[]
  hours: HourSum[]
  senders: Sender[]
  /** What found no place while nothing could be written: by kind. */
  dropped: Record<string, number>
}
export type Counted = RefusedBecause | 'unmapped' | 'rate' | 'repeat' | 'taken'

const mostHappenings = 10_000
const mostSenders = 500
const mostRoutes = 20_000
const hourMs = 3_600_000

interface Route {
  unit: LiveUnit | null
  rule: ReadMapping['rules'][number]
  mapping: ReadMapping
  vars: Readonly<Record<string, string | number>>
  prefix: string
  isState: boolean
}

export class Listener {
  private mappings: readonly ReadMapping[] = []
  private units: ReadonlyMap<string, LiveUnit> = new Map()
  private byId: ReadonlyMap<string, LiveUnit> = new Map()
  private readonly states = new Map<string, LiveState>()
  private readonly presences = new Map<string, { presence: Presence; flapping: boolean }>()
  private readonly rates = new Map<string, Rate>()
  private readonly repeats = new Repeats()
  private readonly routes = new Map<string, Route | null>()
  private dirty = new Set<string>()
  private happenings: Drained['happenings'] = []
  private hours = new Map<string, HourSum>()
  private senders = new Map<string, Sender>()
  private dropped: Record<string, number> = {}
  readonly counts: Partial<Record<Counted, number>> = {}
  /** The last payload that was refused, escaped, and why. */
  lastRefused: { because: Counted; topic: string; sample: string; at: number } | null = null

  /** @param decode UTF-8, strictly; null where bytes are none */
  constructor(private readonly decode: (bytes: Uint8Array) => string | null) {}

  /**
   * Whose topics are whose from now on; what was heard of those that stay is kept.
   * @param known states from before this listener was
   */
  plan(
    mappings: readonly ReadMapping[],
    units: readonly LiveUnit[],
    known: ReadonlyMap<string, LiveState> = new Map(),
  ): void {
    this.mappings = mappings
    this.units = new Map(units.map((u) => [`${u.mapping} ${u.slug}`, u]))
    this.byId = new Map(units.map((u) => [u.id, u]))
    this.routes.clear()
    for (const id of [...this.states.keys()]) {
      if (this.byId.has(id)) continue
      for (const kept of [this.states, this.presences, this.rates]) kept.delete(id)
      this.dirty.delete(id)
    }
    for (const { id } of units) if (!this.states.has(id)) this.states.set(id, known.get(id) ?? silentState())
  }

  private count(what: Counted): void {
    this.counts[what] = (this.counts[what] ?? 0) + 1
  }

  private routeOf(topic: string): Route | null {
    const kept = this.routes.get(topic)
    if (kept !== undefined) return kept
    // A flood of ever new topics must not fill the memory.
    if (this.routes.size >= mostRoutes) this.routes.clear()
    const found = this.findRoute(topic)
    this.routes.set(topic, found)
    return found
  }

  private findRoute(topic: string): Route | null {
    let stranger: Route | null = null
    for (const [n, mapping] of this.mappings.entries())
      for (const rule of mapping.rules) {
        const vars = rule.match(topic)
        if (!vars) continue
        const slug = String(vars.unit)
        const unit = this.units.get(`${n} ${slug}`) ?? null
        const isState = rule.fields.some((f) => !f.event) && !rule.periodic
        const prefix = topic.slice(0, topic.indexOf(slug) + slug.length)
        const route = { unit, rule, mapping, vars, prefix, isState }
        if (unit) return route
        stranger ??= route
      }
    return stranger
  }

  private refuse(because: RefusedBecause, m: Message): null {
    this.count(because)
    this.lastRefused = { because, topic: escaped(bytesOf(m.topic)), sample: escaped(m.bytes), at: m.at }
    return null
  }

  /** Takes a message; what it filled of which unit, or null where it is nobody’s or refused. */
  take(m: Message): { unit: LiveUnit; filled: Filled[]; retained: boolean } | null {
    const route = this.routeOf(m.topic)
    if (!route) return null
    if (!route.unit) {
      if (!route.rule.asked) this.stranger(route.prefix, m)
      return null
    }
    const { unit } = route
    const text = textOf(m.topic, m.bytes, this.decode)
    if (!text.ok) return this.refuse(text.because, m)
    if (this.repeats.is(m.topic, text.text, m.dup, m.at)) {
      this.count('repeat')
      return null
    }
    const rate = this.rates.get(unit.id) ?? new Rate()
    this.rates.set(unit.id, rate)
    if (!rate.allows(m.at, route.isState)) {
      this.count('rate')
      return null
    }
    const payload = route.rule.text ? { ok: true as const, value: text.text } : jsonOf(text.text)
    if (!payload.ok) return this.refuse(payload.because, m)
    const { filled, unmapped } = fill(route.rule.fields, route.vars, payload.value)
    for (let i = 0; i < unmapped; i++) this.count('unmapped')
    this.count('taken')
    if (route.rule.asked) {
      // What a broker kept of it was asked some other time.
      if (!m.retained)
        for (const { field, value } of filled) this.happened(unit.id, { at: m.at, kind: 'asked', field, value })
      return null
    }
    this.hear(unit, filled, route.rule.periodic, m)
    return { unit, filled, retained: m.retained }
  }

  private hear(unit: LiveUnit, filled: Filled[], periodic: boolean, { at, retained }: Message): void {
    const state = this.states.get(unit.id) as LiveState
    for (const h of hear(state, { at, filled, retained, periodic })) this.happened(unit.id, h)
    if (!retained) this.sum(unit.id, filled, at)
    this.dirty.add(unit.id)
    this.presences.set(unit.id, standingAt(state, this.mappingOf(unit), at))
  }

  private happened(unit: string, happening: Happening): void {
    if (this.happenings.length >= mostHappenings) {
      this.happenings.shift()
      this.dropped.happenings = (this.dropped.happenings ?? 0) + 1
    }
    this.happenings.push({ unit, ...happening })
  }

  private sum(unit: string, filled: readonly Filled[], at: number): void {
    const hour = at - (at % hourMs)
    const key = `${unit} ${hour}`
    const sum: HourSum = this.hours.get(key) ?? {
      unit,
      hour,
      messages: 0,
      readings: 0,
      sumW: 0,
      mostW: 0,
      firstKWh: null,
      lastKWh: null,
    }
    sum.messages++
    const number = (field: string) => {
      const value = filled.find((f) => f.field === field)?.value
      return typeof value === 'number' ? value : null
    }
    const [watts, kWh] = [number('P'), number('E')]
    if (watts !== null) {
      sum.readings++
      sum.sumW += watts
      sum.mostW = Math.max(sum.mostW, watts)
    }
    if (kWh !== null) {
      sum.firstKWh ??= kWh
      sum.lastKWh = kWh
    }
    this.hours.set(key, sum)
  }

  private stranger(prefix: string, m: Message): void {
    const known = this.senders.get(prefix)
    if (!known && this.senders.size >= mostSenders) {
      this.dropped.senders = (this.dropped.senders ?? 0) + 1
      return
    }
    this.senders.set(prefix, {
      prefix,
      at: m.at,
      messages: (known?.messages ?? 0) + 1,
      sample: escaped(m.bytes),
    })
  }

  private mappingOf(unit: LiveUnit): ReadMapping {
    return this.mappings[unit.mapping] as ReadMapping
  }

  /** Looks at the clock: who fell silent since, whose flutter is over. */
  look(now: number): void {
    for (const [id, state] of this.states) {
      if (calmed(state, now)) {
        this.happened(id, { at: now, kind: 'calm' })
        this.dirty.add(id)
      }
      const unit = this.byId.get(id)
      if (!unit) continue
      const standing = standingAt(state, this.mappingOf(unit), now)
      const before = this.presences.get(id)
      if (before?.presence === standing.presence && before.flapping === standing.flapping) continue
      this.presences.set(id, standing)
      if (before) this.dirty.add(id)
    }
  }

  /**
   * Everything that changed since the last time, to be written: whoever takes it out holds it until it stands. It stays as it was
   * at this moment, whatever is heard meanwhile: a unit that was written further than its happenings would tell them to nobody
   * after a crash, for what is delivered again changes nothing then.
   */
  drain(now: number): Drained {
    const units = [...this.dirty].map((id) => {
      const state = asItIs(this.states.get(id) as LiveState)
      return { id, state, standing: standingAt(state, this.mappingOf(this.byId.get(id) as LiveUnit), now) }
    })
    const out = {
      units,
      happenings: this.happenings,
      hours: [...this.hours.values()],
      senders: [...this.senders.values()],
      dropped: this.dropped,
    }
    this.dirty = new Set()
    this.happenings = []
    this.hours = new Map()
    this.senders = new Map()
    this.dropped = {}
    return out
  }
}

/** A topic as bytes, so that it can be escaped like a payload. */
const bytesOf = (topic: string): Uint8Array => Uint8Array.from([...topic.slice(0, 200)], (c) => c.charCodeAt(0) & 0xff)
