import { inputsOf } from '../../behaviour/of-template'
import type { BehaviourRun, Entry } from '../../behaviour/run'
import { type Finding, finding } from '../../edge/finding'
import { statesOf } from '../../load/states'
import type { UnitView } from '../../unit/view'
import { behaviourOf, loadsOf, simulated } from '../behaviour/facts'
import type { drills } from './record'

/** What happens when something that a unit rests on goes away for a while: predicted, tried, and only differences asked about (brief 07 §7). */

export type Drill = (typeof drills)[number]

export const drillWords: Record<Drill, { title: string; how: string; seconds: number }> = {
  'mains-off': {
    title: 'Its supply off for 10 s',
    how: 'Switch its supply off at the wall or the breaker.',
    seconds: 10,
  },
  'wifi-off': {
    title: 'The Wi-Fi off for 10 minutes',
    how: 'Switch the access point off, not the whole house.',
    seconds: 600,
  },
  'broker-off': { title: 'The broker off for a minute', how: 'Stop it, wait a minute, start it.', seconds: 60 },
  'hub-off': { title: 'The hub off for a minute', how: 'Stop it, wait a minute, start it.', seconds: 60 },
  'internet-off': {
    title: 'The internet off for a minute',
    how: 'Pull the line to the provider; the network stays.',
    seconds: 60,
  },
}

export interface ChannelPrediction {
  ch: number
  /** Can it be worked by hand while that is away? null: it has nothing to press. */
  local: boolean | null
  /** What it does while that is away: '' for nothing. */
  meanwhile: string
  /** Its state when that is back. */
  after: 'on' | 'off' | 'as before'
  /** The same at the load, where its contact is known. */
  loadAfter: 'on' | 'off' | 'as before' | null
}

export interface DrillPrediction {
  drill: Drill
  /** What does not work meanwhile. */
  lost: string[]
  channels: ChannelPrediction[]
  /** Somebody has to be beside it, or its load off. */
  guarded: boolean
}

const guardedLoads: ReadonlySet<string> = new Set(['heater', 'motor', 'pump', 'latch-unlocks', 'latch-locks'])
const swap = { on: 'off', off: 'on', 'as before': 'as before' } as const
/** When what is tried goes away, in ms from the start; the unit has long started by then. */
const goesMs = 10_000
/** Off and on again, and on the network. */
const fromStart: Entry[] = [
  { t: 0, mains: 0 },
  { t: 100, mains: 1 },
  { t: 5000, net: 1 },
]
const pressedMs = 6000
const pressMs = 300
/** So soon after a press something moves, where it works: a long press and a dead time are within it. */
const answersMs = 5000

const pressOf = (input: string, t: number): Entry[] => [
  { t, input, level: 1 },
  { t: t + pressMs, input, level: 0 },
]
const inOrder = (entries: Entry[]): Entry[] => entries.sort((a, b) => a.t - b.t)

const lostWith: Record<Drill, string[]> = {
  'mains-off': ['everything it does'],
  'wifi-off': ['the hub, voice and automations', 'reports and readings'],
  'broker-off': ['the hub, voice and automations', 'reports and readings'],
  'hub-off': ['automations and voice'],
  'internet-off': [],
}

const lossOf = (view: UnitView, drill: Drill): string[] =>
  drill === 'internet-off' && view.route === 'local-control' && view.records.hub.data.local?.cloudBlocked !== 'yes'
    ? ['whatever goes over its maker’s cloud']
    : lostWith[drill]

/** What a unit is predicted to do; null without a pin template, since nobody knows then what it works. */
export function predictDrill(view: UnitView, drill: Drill): DrillPrediction | null {
  const known = behaviourOf(view)
  if (!known) return null
  const { def, template } = known
  const back = goesMs + drillWords[drill].seconds * 1000
  const until = back + 30_000
  const gone: Entry[] =
    drill === 'mains-off'
      ? [
          { t: goesMs, mains: 0 },
          { t: back, mains: 1 },
        ]
      : drill === 'wifi-off' || drill === 'broker-off'
        ? [
            { t: goesMs, net: 0 },
            { t: back, net: 1 },
          ]
        : []
  // It begins with a start, so that what is set to come up on is on; and once more with everything pressed before.
  const away: Entry[] = [...fromStart, ...gone]
  const pressed = inputsOf(template).flatMap((i) => pressOf(i.id, pressedMs))
  const runs = [away, inOrder([...away, ...pressed])].map((timeline) => simulated(def, timeline, until))
  const [plain, other] = runs
  if (!plain || !other) return null
  const loads = new Map(loadsOf(view).map((l) => [l.ch, l]))
  const inputs = inputsOf(template)
  const said = new Map(view.records.behaviour.data.channels.map((c) => [c.ch, c]))
  const channels = def.channels.map(({ ch, onPower }): ChannelPrediction => {
    const input = inputs.find((i) => i.ch === ch) ?? (def.channels.length === 1 ? inputs[0] : undefined)
    const movesIn = (run: BehaviourRun, from: number, to: number) =>
      run.events.find((e) => 'ch' in e && e.ch === ch && e.t >= from && e.t < to)
    const shows = [plain, other].find((run) => movesIn(run, goesMs, until)) ?? plain
    const first = movesIn(shows, goesMs, back)
    const own = shows.final[String(ch)] ?? 'off'
    // Nothing but the power switched it: it comes back as it is set to.
    const moved = movesIn(shows, back, until) !== undefined
    const after: ChannelPrediction['after'] =
      drill === 'mains-off'
        ? onPower === 'last'
          ? 'as before'
          : (plain.final[String(ch)] ?? 'off')
        : first === undefined && !moved
          ? 'as before'
          : own
    const load = loads.get(ch)
    const opens = load && (load.contact === 'NC' || load.contact === 'CO-NC')
    return {
      ch,
      local: input === undefined ? null : drill === 'mains-off' ? false : worksByHand(view, input.id, ch, away, back),
      meanwhile:
        drill === 'mains-off'
          ? load
            ? `its load is ${statesOf(load).load.unpowered}`
            : ''
          : first && 'to' in first
            ? `it goes ${first.to} after ${Math.round((first.t - goesMs) / 1000)} s`
            : '',
      after,
      loadAfter: load ? (opens ? swap[after] : after) : null,
    }
  })
  const guarded =
    [...said.values()].some((c) => c.load && guardedLoads.has(c.load.kind)) ||
    guardedLoads.has(view.records.arrive.data.load ?? '')
  return { drill, lost: lossOf(view, drill), channels, guarded }
}

/** Does a press on its input still move the channel in the middle of it? */
function worksByHand(view: UnitView, input: string, ch: number, away: readonly Entry[], back: number): boolean {
  const known = behaviourOf(view)
  if (!known) return false
  const middle = Math.round((goesMs + back) / 2)
  const run = simulated(known.def, inOrder([...away, ...pressOf(input, middle)]), back - 1)
  return run?.events.some((e) => 'ch' in e && e.ch === ch && e.t >= middle && e.t < middle + answersMs) ?? false
}

/** The order in which they are worth trying: the power cut first, then what takes its own control away. */
export const drillOrder = (view: UnitView): readonly Drill[] =>
  view.route === 'local-control'
    ? ['mains-off', 'internet-off', 'wifi-off', 'hub-off', 'broker-off']
    : ['mains-off', 'wifi-off', 'broker-off', 'hub-off', 'internet-off']

/** What went otherwise than predicted, each the newest of its kind: it stands with the behaviour. */
export function drillFindings(view: UnitView): Finding[] {
  const newest = new Map(view.records.prove.data.drills.map((d) => [d.drill, d]))
  return [...newest.values()]
    .filter((d) => d.as === 'otherwise')
    .map((d) =>
      finding(
        `drill-${d.drill}`,
        'watch',
        `${drillWords[d.drill].title}: it did otherwise than its rules say. ${d.seen}`,
        `Tried on ${d.on}.`,
        'Change its rules or its settings, and try it again.',
      ),
    )
}
