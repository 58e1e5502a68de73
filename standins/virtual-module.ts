import type { KnownFamily } from '@fresh-coat/core/families/families'
import { factsOf } from '@fresh-coat/core/families/families'
import { chipKeeps } from '@fresh-coat/core/pins/probe-plan'
import { inputsOf, type ProbeSession, type SignId } from '@fresh-coat/core/pins/session'
import { naturalOrder, pinFacts } from '@fresh-coat/core/pins/words'
import { seededRandom } from './random'

/**
 * A module with relays, lights, a button, and pins that must not be driven, hidden until the search is over: it clicks,
 * lights and restarts, and what is driven against another output is harmed.
 */
export interface VirtualModule {
  seed: number
  family: KnownFamily
  pins: string[]
  /** What hangs on it, as it was sold: relays, one latching relay with two coils, or a motor with two relays. */
  kind: 'relays' | 'latching' | 'motor'
  /** Pins of the relays; of a latching one its set coil, then its reset coil. */
  relays: string[]
  light: { pin: string; low: boolean } | null
  /** Shares its pin with a relay: the light across a coil. */
  shared: boolean
  /** Joins its pin to ground while it is held. */
  button: string | null
  /** The output of a meter: it changes by itself, and another output would fight with it. */
  meter: string | null
  /** Pins whose driving makes it restart: a strap held by hardware, a weak supply. */
  restarts: string[]
}

/** What driving did that a real part would not stand. */
export type Harm = 'two outputs fight' | 'both coils at once' | 'both windings at once'

export interface Response {
  click: boolean
  light: boolean
  restart: boolean
  harm: Harm | null
  /** Where a latching relay stands after it. */
  latched: boolean
}

const families: readonly KnownFamily[] = ['LX106', 'RV32', 'LX6']
const most = 9

export function makeVirtualModule(seed: number): VirtualModule {
  const random = seededRandom(seed * 7 + 3)
  const take = <T>(list: T[]): T => list.splice(Math.floor(random() * list.length), 1)[0] as T
  const family = families[Math.floor(random() * families.length)] as KnownFamily
  const chip = { family, flashLines: 4 as const, octal: false }
  const free = Object.keys(factsOf(family).pins).filter((p) => chipKeeps(p, chip) === null)
  const pins: string[] = []
  const left = [...free]
  while (pins.length < most && left.length > 0) pins.push(take(left))
  pins.sort(naturalOrder)
  const strap = pins.find((p) => ['high', 'low'].some((w) => pinFacts(family, p)?.words.has(w)))
  const open = pins.filter((p) => p !== strap)
  const chance = random()
  const kind = chance < 0.2 ? 'latching' : chance < 0.4 ? 'motor' : 'relays'
  const two = kind !== 'relays' || random() < 0.5
  const relays = [take(open), ...(two ? [take(open)] : [])]
  if (kind === 'relays') relays.sort(naturalOrder)
  const shared = kind === 'relays' && random() < 0.25
  const light = shared ? { pin: relays[0] as string, low: false } : { pin: take(open), low: random() < 0.5 }
  const button = random() < 0.7 ? take(open) : null
  const meter = random() < 0.5 ? take(open) : null
  const restarts = strap && random() < 0.6 ? [strap] : []
  return { seed, family, pins, kind, relays, light, shared, button, meter, restarts }
}

/** What every pin reads as an input, by the pull that is on, with the button held or not. */
export function levelsOf(m: VirtualModule, pull: 'up' | 'down', held: boolean): Record<string, 0 | 1> {
  const follows = pull === 'up' ? 1 : 0
  return Object.fromEntries(
    m.pins.map((pin) => {
      if (pin === m.meter) return [pin, follows === 1 ? 0 : 1] as const
      if (pin === m.button && held) return [pin, 0] as const
      if (m.restarts.includes(pin)) return [pin, pinFacts(m.family, pin)?.words.has('high') ? 1 : 0] as const
      return [pin, follows] as const
    }),
  )
}

const both = (m: VirtualModule, on: readonly string[]) => m.relays.every((p) => on.includes(p))

function harmOf(m: VirtualModule, on: readonly string[]): Harm | null {
  if (m.meter && on.includes(m.meter)) return 'two outputs fight'
  if (m.kind === 'relays' || !both(m, on)) return null
  return m.kind === 'latching' ? 'both coils at once' : 'both windings at once'
}

/**
 * What a person sees and hears when these pins go high and all others low, after those before. A latching relay clicks
 * only when a coil takes it to the other side.
 */
export function respond(m: VirtualModule, on: readonly string[], before: readonly string[], latched = false): Response {
  const harm = harmOf(m, on)
  if (harm || on.some((p) => m.restarts.includes(p)))
    return { click: false, light: false, restart: true, harm, latched }
  const { relays, light } = m
  const [set = '', reset = ''] = relays
  const after = m.kind !== 'latching' ? latched : on.includes(set) ? true : on.includes(reset) ? false : latched
  return {
    click: m.kind === 'latching' ? after !== latched : relays.some((p) => on.includes(p) !== before.includes(p)),
    light: light !== null && on.includes(light.pin) !== light.low,
    restart: false,
    harm: null,
    latched: after,
  }
}

export interface SearchScore {
  score: number
  trials: number
  /** Answers that were not what could be seen. */
  misheard: number
  /** Times that it was made to restart. */
  restarts: number
  /** Times that something was driven which a real part would not have stood. */
  harmed: number
  missed: string[]
}

const cost = { misheard: 12, restart: 5, harmed: 20, trial: 4, missed: 25 }

/** How a search went: what was misheard, what was found wrong, and trials beyond what the plan expects. */
export function scoreSearch(
  module_: VirtualModule,
  session: ProbeSession,
  found: readonly { pins: readonly string[]; sign: SignId }[],
  expected: number,
): SearchScore {
  let before: readonly string[] = []
  let [misheard, harmed, latched] = [0, 0, false]
  for (const t of session.trials) {
    const is = respond(module_, t.on, before, latched)
    latched = is.latched
    if (is.harm) harmed++
    const right =
      t.reset === is.restart &&
      (is.restart || (t.saw.includes('click') === is.click && t.saw.includes('led') === is.light))
    if (!right) misheard++
    before = is.restart ? [] : t.on
  }
  const pinsOf = (sign: SignId) => found.find((f) => f.sign === sign)?.pins ?? []
  const pressed = inputsOf(session).map((i) => i.pin)
  const missed = [
    ...(module_.button && !pressed.includes(module_.button) ? [module_.button] : []),
    ...module_.relays.filter((p) => !pinsOf('click').includes(p)),
    ...(module_.light && !pinsOf('led').includes(module_.light.pin) ? [module_.light.pin] : []),
  ]
  const trials = session.trials.filter((t) => t.on.length > 0).length
  const restarts = session.trials.filter((t) => t.reset).length
  const over = Math.max(0, trials - Math.ceil(expected))
  const lost =
    cost.misheard * misheard +
    cost.restart * restarts +
    cost.harmed * harmed +
    cost.trial * over +
    cost.missed * missed.length
  return { score: Math.max(0, 100 - lost), trials, misheard, restarts, harmed, missed }
}
