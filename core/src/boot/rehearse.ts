import { z } from 'zod'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'
import { isKnownFamily, straplessEntry } from '../families/families'

/** The hand sequence into download mode (or back out of it) on a virtual board, judged by its timing. */

export const handMoves = [
  'power_on',
  'power_off',
  'strap_low',
  'strap_high',
  'reset_low',
  'reset_high',
  'call_start',
  'call_stop',
] as const
export type HandMove = (typeof handMoves)[number]

export const railVolts = 3.3
/** Below this the part resets when its supply returns. */
export const resetBelowVolts = 0.8
/** How fast the rail of the virtual board falls without its supply. */
export const usualRailTauMs = 150
const startDelayMs = 10
/** The strap is sampled this long after the part begins to start. */
const sampleDelayMs = 2
const bounceMs = 5
export const unlockScore = 85
export const unlockRuns = 3

const positive = (name: string) =>
  z.number().superRefine((n, context) => {
    if (!(n > 0)) refuse(context, 'range', [], `${name} must be above 0 ms.`)
  })

export const RehearseInput = z.object({
  family: z.string().superRefine((family, context) => {
    if (!isKnownFamily(family)) refuse(context, 'unknown-family', [], `There is no virtual board for "${family}".`)
  }),
  events: z
    .array(
      z.object({
        t: z.number().min(0),
        do: z.string().superRefine((move, context) => {
          if (!(handMoves as readonly string[]).includes(move))
            refuse(context, 'unknown-event', [], `"${move}" is no move: ${handMoves.join(', ')}.`)
        }),
      }),
    )
    .superRefine((events, context) =>
      events.forEach((event, i) => {
        if (i > 0 && event.t < (events[i - 1]?.t ?? 0))
          refuse(context, 'range', [i, 't'], 'The events must be in the order of their times.')
      }),
    ),
  goal: z.enum(['download', 'app']).default('download'),
  railTauMs: positive('The time constant of the rail').default(usualRailTauMs),
  windowMs: positive('The window').default(100),
  callMs: positive('The time between calls').default(20),
})
export type HandEvent = { t: number; do: HandMove }

export const mistakeSays = {
  rail_not_low:
    'The supply came back before the rail had fallen below 0.8 V: the part never reset. Wait longer with the supply off.',
  strap_bounce: 'The strap changed within 5 ms of being read: hold it still before power comes, and well after.',
  strap_late: 'The strap was held only after it had been read: hold it first, then power.',
  strap_left: 'BOOT was still held: let it go before the last start.',
  window_missed: 'No call fell into the window after the start: keep calling from before power comes.',
  no_reset: 'The part never started: switch its supply, or let the reset line go.',
} as const
export type Mistake = keyof typeof mistakeSays

export interface Rehearsal {
  boots: { t: number; mode: 'download' | 'app' }[]
  /** Mode of the last start; none if it never started. */
  end: 'download' | 'app' | 'none'
  mistakes: Mistake[]
  score: number
}

/** What the part sees: when it begins to start, and how often the supply came back too soon. */
function startsOf(events: readonly HandEvent[], railTauMs: number): { starts: number[]; tooSoon: number[] } {
  const starts: number[] = []
  const tooSoon: number[] = []
  let powered = false
  let resetHeld = false
  let offAt: number | null = null
  // Power came with reset free: the part starts a moment later, unless power or reset goes before that.
  let pending: number | null = null
  for (const event of events) {
    if (pending !== null && event.t >= pending) {
      starts.push(pending)
      pending = null
    }
    if (event.do === 'power_on' && !powered) {
      powered = true
      const volts = offAt === null ? 0 : railVolts * Math.exp(-(event.t - offAt) / railTauMs)
      if (volts >= resetBelowVolts) tooSoon.push(event.t)
      else if (!resetHeld) pending = event.t + startDelayMs
    } else if (event.do === 'power_off' && powered) {
      powered = false
      offAt = event.t
      pending = null
    } else if (event.do === 'reset_low') {
      resetHeld = true
      pending = null
    } else if (event.do === 'reset_high' && resetHeld) {
      resetHeld = false
      if (powered) starts.push(event.t)
    }
  }
  if (pending !== null) starts.push(pending)
  return { starts, tooSoon }
}

/** Level of the strap when it is sampled, and whether it had moved shortly before. */
function strapAt(events: readonly HandEvent[], sample: number): { low: boolean; bounced: boolean } {
  let low = false
  let changed = Number.NEGATIVE_INFINITY
  for (const event of events) {
    if (event.t > sample) break
    const now: boolean = event.do === 'strap_low' ? true : event.do === 'strap_high' ? false : low
    if (now !== low) changed = event.t
    low = now
  }
  return { low, bounced: sample - changed < bounceMs }
}

/** Does a call fall into [from, to]? Calls go out at start + k·every, until they are stopped. */
function called(events: readonly HandEvent[], from: number, to: number, everyMs: number): boolean {
  let since: number | null = null
  const inside = (start: number, stop: number) => {
    const first = start + Math.max(0, Math.ceil((from - start) / everyMs)) * everyMs
    return first <= to && first < stop
  }
  for (const event of events) {
    if (event.do === 'call_start' && since === null) since = event.t
    else if (event.do === 'call_stop' && since !== null) {
      if (inside(since, event.t)) return true
      since = null
    }
  }
  return since !== null && inside(since, Number.POSITIVE_INFINITY)
}

/**
 * Judges a sequence of hand moves. Refusals: `unknown-family`, `unknown-event`, `range`, `missing`, `type`.
 * The rail decays as 3.3 V·e^(−Δt/τ); the strap is sampled 2 ms after the start; loaders without a strap listen for
 * `windowMs` after it.
 */
export function rehearse(input: unknown): Outcome<Rehearsal> {
  const parsed = parseInput(RehearseInput, input, strictCodes)
  if (!parsed.ok) return parsed
  const { family, goal, railTauMs, windowMs, callMs } = parsed.value
  const events = parsed.value.events as HandEvent[]
  const byCall = straplessEntry(family) !== null
  const { starts, tooSoon } = startsOf(events, railTauMs)
  const mistakes = new Set<Mistake>()
  if (tooSoon.length > 0) mistakes.add('rail_not_low')

  const boots = starts.map((t): Rehearsal['boots'][number] => {
    if (byCall) return { t, mode: called(events, t, t + windowMs, callMs) ? 'download' : 'app' }
    const strap = strapAt(events, t + sampleDelayMs)
    if (strap.bounced) mistakes.add('strap_bounce')
    return { t, mode: strap.low && !strap.bounced ? 'download' : 'app' }
  })
  const last = boots.at(-1)
  if (!last) mistakes.add('no_reset')
  else if (goal === 'download' && last.mode === 'app') {
    if (byCall) mistakes.add('window_missed')
    else if (events.some((e) => e.do === 'strap_low' && e.t > last.t + sampleDelayMs)) mistakes.add('strap_late')
  } else if (goal === 'app' && last.mode === 'download') mistakes.add('strap_left')

  const began = events.find((e) => e.do === 'strap_low' || e.do === 'call_start')?.t ?? Number.NEGATIVE_INFINITY
  // Nothing tried is one try that missed.
  const tries = Math.max(1, boots.filter((b) => b.t >= began).length + tooSoon.length)
  const end = last?.mode ?? 'none'
  const score = (end === goal ? 100 : 40) - 15 * (tries - 1) - 10 * mistakes.size
  return {
    ok: true,
    value: { boots, end, mistakes: [...mistakes], score: Math.max(0, score) },
  }
}

/** Seconds until the rail is low enough for a reset, rounded up to the next tenth: τ·ln(3.3 / 0.8). */
export const railFallsMs = (railTauMs: number): number => railTauMs * Math.log(railVolts / resetBelowVolts)
