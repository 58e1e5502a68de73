import type { KnownFamily } from '@fresh-coat/core/families/families'
import { factsOf } from '@fresh-coat/core/families/families'
import { chipKeeps } from '@fresh-coat/core/pins/probe-plan'
import type { ProbeSession, SignId } from '@fresh-coat/core/pins/session'
import { naturalOrder, pinFacts } from '@fresh-coat/core/pins/words'
import { seededRandom } from './random'

/** A module with relays, lights, and pins that must not be driven, hidden until the search is over: it clicks, lights and restarts. */
export interface VirtualModule {
  seed: number
  family: KnownFamily
  pins: string[]
  /** What hangs on it, as it was sold. */
  relays: string[]
  light: { pin: string; low: boolean } | null
  /** Shares its pin with a relay: the light across a coil. */
  shared: boolean
  /** Pins whose driving makes it restart: a strap held by hardware, a weak supply. */
  restarts: string[]
}

export interface Response {
  click: boolean
  light: boolean
  restart: boolean
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
  const relays = [take(open), ...(random() < 0.5 ? [take(open)] : [])].sort(naturalOrder)
  const shared = random() < 0.25
  const light = shared ? { pin: relays[0] as string, low: false } : { pin: take(open), low: random() < 0.5 }
  return { seed, family, pins, relays, light, shared, restarts: strap && random() < 0.6 ? [strap] : [] }
}

/** What a person sees and hears when these pins go high and all others low, after those before. */
export function respond(module_: VirtualModule, on: readonly string[], before: readonly string[]): Response {
  if (on.some((p) => module_.restarts.includes(p))) return { click: false, light: false, restart: true }
  const { relays, light } = module_
  return {
    click: relays.some((p) => on.includes(p) !== before.includes(p)),
    light: light !== null && on.includes(light.pin) !== light.low,
    restart: false,
  }
}

export interface SearchScore {
  score: number
  trials: number
  /** Answers that were not what could be seen. */
  misheard: number
  /** Times that it was made to restart. */
  restarts: number
  missed: string[]
}

const cost = { misheard: 12, restart: 5, trial: 4, missed: 25 }

/** How a search went: what was misheard, what was found wrong, and trials beyond what the plan expects. */
export function scoreSearch(
  module_: VirtualModule,
  session: ProbeSession,
  found: readonly { pins: readonly string[]; sign: SignId }[],
  expected: number,
): SearchScore {
  let before: readonly string[] = []
  let misheard = 0
  for (const t of session.trials) {
    const is = respond(module_, t.on, before)
    const right =
      t.reset === is.restart &&
      (is.restart || (t.saw.includes('click') === is.click && t.saw.includes('led') === is.light))
    if (!right) misheard++
    before = is.restart ? [] : t.on
  }
  const pinsOf = (sign: SignId) => found.find((f) => f.sign === sign)?.pins ?? []
  const missed = [
    ...module_.relays.filter((p) => !pinsOf('click').includes(p)),
    ...(module_.light && !pinsOf('led').includes(module_.light.pin) ? [module_.light.pin] : []),
  ]
  const trials = session.trials.filter((t) => t.on.length > 0).length
  const restarts = session.trials.filter((t) => t.reset).length
  const over = Math.max(0, trials - Math.ceil(expected))
  const lost = cost.misheard * misheard + cost.restart * restarts + cost.trial * over + cost.missed * missed.length
  return { score: Math.max(0, 100 - lost), trials, misheard, restarts, missed }
}
