import { z } from 'zod'
import type { KnownFamily } from '../families/families'
import { type Inference, inferPins, inputOf, type Sign, setsOf, sharesOf, type Trial } from './infer'
import { hazardKinds, type ProbePlan, type ProbePower, probePlan } from './probe-plan'
import { isIdle, isLoad, type PinFunction, type PinTemplate, type TemplatePin } from './template'

/** A search for what pins do that goes on over sittings: what is looked for, what was driven, what comes next. */

export const signIds = ['click', 'led', 'bright', 'load'] as const
export type SignId = (typeof signIds)[number]
const kindOf: Record<SignId, Sign['kind']> = { click: 'edge', led: 'level', bright: 'level', load: 'level' }
const mostAlike = 6

export const ProbeSession = z.object({
  unknown: z.array(z.object({ sign: z.enum(signIds), count: z.number().int().min(1).max(mostAlike) })).max(4),
  hazards: z.array(z.enum(hazardKinds)).max(4).default([]),
  /** Somebody said that two relays are not the windings of one motor. */
  noMotor: z.boolean().default(false),
  /** Pins that change by themselves: outputs of something, never driven. */
  moving: z.array(z.string().max(20)).max(60).default([]),
  begun: z.boolean().default(false),
  /** Pins that read low though they are pulled up; null while nobody has looked. */
  lowPulledUp: z.array(z.string().max(20)).max(60).nullable().default(null),
  /** Pins that read high though they are pulled down; null while nobody has looked. */
  highPulledDown: z.array(z.string().max(20)).max(60).nullable().default(null),
  /** Its firmware shows no levels: nothing is known of them, and nobody is asked. */
  unread: z.boolean().default(false),
  /** Buttons that were held one by one, and the pins that changed with each. */
  presses: z
    .array(
      z.object({
        changed: z.array(z.string().max(20)).max(20),
        sitting: z.number().int().min(1).max(1000),
      }),
    )
    .max(20)
    .default([]),
  /** Every button was held, or there is none. */
  pressed: z.boolean().default(false),
  trials: z
    .array(
      z.object({
        on: z.array(z.string().max(20)).max(60),
        saw: z.array(z.enum(signIds)).max(4),
        reset: z.boolean().default(false),
        sitting: z.number().int().min(1).max(1000),
      }),
    )
    .max(400)
    .default([]),
  /** What was found stands in the template. */
  taken: z.boolean().default(false),
  /** The functions that were set for trials are set back to unused. */
  restored: z.boolean().default(false),
})
export type ProbeSession = z.infer<typeof ProbeSession>

export const newSession = (): ProbeSession => ProbeSession.parse({ unknown: [] })

export interface Bench {
  family: KnownFamily
  power: ProbePower
  /** Pins that lead somewhere, where that is known: all of the family otherwise. */
  pins: readonly string[]
  template: PinTemplate | null
}

/**
 * What is driven, in which groups; null where nothing is looked for or no pin is left. A pin with a button is not driven: a
 * pressed button would short it.
 */
export function planOf(session: ProbeSession, { family, power, pins, template }: Bench): ProbePlan | null {
  if (session.unknown.length === 0) return null
  const known = (template?.pins ?? []).filter((p) => p.fn !== 'unused' && p.fn !== 'spare').map((p) => p.pin)
  const plan = probePlan({
    family,
    pins,
    known: [...known, ...session.presses.flatMap((p) => p.changed)],
    moving: session.moving,
    power,
    unknown: session.unknown,
    hazards: session.hazards,
    noMotor: session.noMotor,
    flashLines: template?.flashLines ?? 4,
    octal: template?.octal === true,
  })
  return plan.candidates.length > 0 ? plan : null
}

const mostSets = 50_000
/** Signs that show with this power; a count that would make too many sets to compare is taken down. */
export function signsOf(session: ProbeSession, plan: ProbePlan): Sign[] {
  const n = plan.candidates.length
  return session.unknown
    .filter((u) => plan.visible.includes(u.sign))
    .map(({ sign, count }) => {
      let k = Math.min(count, n)
      while (k > 1 && setsOf(n, k) > mostSets) k--
      return { id: sign, kind: kindOf[sign], count: k }
    })
}

/** Trials as far as their pins are still candidates: a family that was corrected leaves some behind. */
export const trialsOf = (session: ProbeSession, plan: ProbePlan): Trial[] =>
  session.trials.map((t) => ({ ...t, on: t.on.filter((p) => plan.candidates.includes(p)) }))

export const inferenceOf = (session: ProbeSession, plan: ProbePlan): Inference =>
  inferPins(plan.candidates, signsOf(session, plan), trialsOf(session, plan), [])

/** What of the trials no longer fits the pins there are. */
export const strayPins = (session: ProbeSession, plan: ProbePlan): string[] => [
  ...new Set(session.trials.flatMap((t) => t.on).filter((p) => !plan.candidates.includes(p))),
]

export interface NextTrial {
  on: string[]
  /** Which of the trials with something on it is, from 1. */
  n: number
}

const sure = 0.99
const possible = 0.02
const same = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((p) => b.includes(p))

/** Pins that may still answer with the least sure sign, in the order of the plan. */
function stillPossible(session: ProbeSession, plan: ProbePlan, found: Inference): string[] {
  const open = found.signs.filter((s) => s.p < sure).sort((a, b) => a.p - b.p)[0]
  const sign = signsOf(session, plan).find((s) => s.id === open?.id)
  if (!sign) return []
  return sharesOf(plan.candidates, sign, trialsOf(session, plan)).flatMap((s) =>
    s.p >= possible && !found.suspects.includes(s.pin) ? [s.pin] : [],
  )
}

function groupAfter(session: ProbeSession, plan: ProbePlan, found: Inference): string[] | null {
  const driven = trialsOf(session, plan).map((t) => t.on)
  const without = (group: readonly string[]) => group.filter((p) => !found.suspects.includes(p))
  if (plan.method === 'halving') {
    const left = stillPossible(session, plan, found)
    const half = left.slice(0, Math.floor(left.length / 2))
    if (half.length > 1 && !driven.some((d) => same(d, half))) return half
  } else {
    const next = plan.groups.map(without).find((g) => g.length > 0 && !driven.some((d) => same(d, g)))
    if (next) return next
  }
  return found.next?.on ?? null
}

/**
 * What to drive now; null where nothing would tell more. Before the first and after each, everything goes off, and that counts as a
 * trial: the last relay letting go would otherwise be taken for the next pin.
 */
export function nextTrial(
  session: ProbeSession,
  plan: ProbePlan,
  found = inferenceOf(session, plan),
): NextTrial | null {
  const last = session.trials.at(-1)
  const n = session.trials.filter((t) => t.on.length > 0).length
  if (!last || (last.on.length > 0 && !last.reset)) return { on: [], n }
  if (signsOf(session, plan).length === 0 || found.signs.every((s) => s.p >= sure)) return null
  const on = groupAfter(session, plan, found)
  return on && { on, n: n + 1 }
}

const fnOf: Record<SignId, PinFunction> = { click: 'relay', led: 'led', bright: 'dim', load: 'relay' }
const likely = 0.9

export interface FoundPin {
  pin: TemplatePin
  /** How sure the trials make it; null for a button, which a hand found: it is seen, not inferred. */
  p: number | null
  /** The level is not told by what was seen: a click tells the pin only. */
  levelUnknown: boolean
}

/** Sittings in which this pin answered when it was driven alone with its sign. */
function sittingsOf(session: ProbeSession, sign: string, pins: readonly string[]): number[] {
  const seen = session.trials.filter(
    (t) => !t.reset && t.on.some((p) => pins.includes(p)) && (t.saw as string[]).includes(sign),
  )
  return [...new Set(seen.map((t) => t.sitting))]
}

/** What follows the pull is free; what reads the same both times is held by something; the rest changes by itself. */
export type Rest = 'free' | 'held-low' | 'held-high' | 'changes'

/** What a pin does while nothing is driven; null while nobody has looked both ways. */
export function restOf({ lowPulledUp, highPulledDown }: ProbeSession, pin: string): Rest | null {
  if (lowPulledUp === null || highPulledDown === null) return null
  const [low, high] = [lowPulledUp.includes(pin), highPulledDown.includes(pin)]
  return low && high ? 'changes' : low ? 'held-low' : high ? 'held-high' : 'free'
}

/** The order of work (03 §3): levels with each pull, then buttons, then driving. What was begun before is not asked again. */
export type Stage = 'pulled-up' | 'pulled-down' | 'press' | 'drive'
export function stageOf({ lowPulledUp, highPulledDown, unread, pressed, trials }: ProbeSession): Stage {
  if (trials.length > 0 || unread) return 'drive'
  if (lowPulledUp === null) return 'pulled-up'
  if (highPulledDown === null) return 'pulled-down'
  return pressed ? 'drive' : 'press'
}

/**
 * What was learned of levels before anything was driven: pins that read low under their pull-up and high under their
 * pull-down change by themselves, and are never driven.
 */
export const withLevels = (session: ProbeSession, change: Partial<ProbeSession>): Partial<ProbeSession> => {
  const both = { ...session, ...change }
  const moving = (both.lowPulledUp ?? []).filter((pin) => both.highPulledDown?.includes(pin))
  return { ...change, moving: [...new Set([...session.moving, ...moving])] }
}

/** Each press with its one pin, as an input found; several pins at once are two fingers or linked pins, and prove none. */
export function inputsOf(
  session: ProbeSession,
): { pin: string | null; active: 'high' | 'low' | null; changed: string[] }[] {
  const idleOf = (pin: string) => (session.lowPulledUp?.includes(pin) ? 0 : 1)
  return session.presses.map(({ changed }) => {
    const idle = Object.fromEntries(changed.map((pin) => [pin, idleOf(pin)] as const))
    const held = Object.fromEntries(changed.map((pin) => [pin, idleOf(pin) === 1 ? 0 : 1] as const))
    return inputOf({ name: '', idle, held }, changed)
  })
}

/** Buttons by the pins that changed with them, with the sittings in which they did. */
function buttonsFound(session: ProbeSession, unit: string): FoundPin[] {
  const inputs = inputsOf(session)
  const out: FoundPin[] = []
  for (const [i, { pin, active }] of inputs.entries()) {
    const sitting = session.presses[i]?.sitting
    if (pin === null || active === null) continue
    const evidence = { unit, sitting: `s${sitting}`, agrees: true, saw: 'press' }
    const there = out.find((f) => f.pin.pin === pin)
    if (there) {
      there.pin = { ...there.pin, evidence: [...(there.pin.evidence ?? []), evidence] }
      continue
    }
    out.push({
      pin: {
        pin,
        fn: 'button',
        active,
        ...(active === 'low' ? { pull: 'up' as const } : {}),
        evidence: [evidence],
      },
      p: null,
      levelUnknown: false,
    })
  }
  return out
}

/** What was found, as pins of a template with their evidence; channels count on from those that are there. */
export function foundPins(
  session: ProbeSession,
  plan: ProbePlan,
  unit: string,
  template: PinTemplate | null,
): FoundPin[] {
  const { signs } = inferenceOf(session, plan)
  const used = (template?.pins ?? []).filter((p) => !isIdle(p.fn))
  const out: FoundPin[] = buttonsFound(session, unit)
  let ch = Math.max(0, ...used.filter((p) => isLoad(p.fn) && p.fn !== 'led').map((p) => p.ch ?? 0))
  for (const s of signs) {
    if (s.p < likely) continue
    const fn = fnOf[s.id as SignId]
    for (const pin of s.pins) {
      const there = out.find((f) => f.pin.pin === pin)
      if (there) {
        // A lamp that goes with the click tells the level of its relay.
        if (s.active && there.levelUnknown) {
          there.pin = { ...there.pin, active: s.active }
          there.levelUnknown = false
        }
        continue
      }
      const sittings = sittingsOf(session, s.id, s.pins)
      out.push({
        pin: {
          pin,
          fn,
          ...(fn === 'led' ? {} : { ch: ++ch }),
          ...(s.active ? { active: s.active } : {}),
          evidence: sittings.map((n) => ({ unit, sitting: `s${n}`, agrees: true, saw: s.id })),
        },
        p: s.p,
        levelUnknown: s.active === null,
      })
    }
  }
  return out
}

/** Something was set for trials, and nobody has said that it is set back. */
export const needsRestoring = (session: ProbeSession | null): boolean =>
  session !== null && !session.restored && session.trials.some((t) => t.on.length > 0)
