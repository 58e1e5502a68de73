import { type Instruction, instruction } from '../boot/entry'
import { refitReason } from '../refit/of-unit'
import { dischargeWait, isolationOf } from '../steps/open/facts'
import { type Condition, must } from './condition'
import type { GateRecord, UnitView } from './view'
import { type GateId, gateTitle, gateWords, type StepId, stepOf, type Work } from './way'

/** Gates by what is about to happen (01 M1 to M4, 03 §11), whatever kind of unit it happens to. */
const gatesOfWork: Record<Exclude<Work, 'as powered'>, readonly GateId[]> = {
  none: [],
  touch: ['mains-off', 'discharged'],
  rail: ['mains-off', 'discharged', 'current-limit'],
  mains: ['case-closed'],
}
/** Gates that are about the mains: a unit that never meets it has none of them. */
const mainsGates: ReadonlySet<GateId> = new Set(['mains-off', 'discharged', 'case-closed'])

/** What the work of a step does to the unit; null while nobody has said what powers it. */
export function workOf(view: UnitView, step: StepId): Exclude<Work, 'as powered'> | null {
  // Before a module that was put back gets power it is measured, on contacts that were live.
  if (step === 'close' && refitReason(view, 'close') !== null) return 'touch'
  const { work } = stepOf(step)
  if (work !== 'as powered') return work
  const { power } = view.records.pins.data
  return power === null ? null : ({ adapter: 'touch', rail: 'rail', mains: 'mains' } as const)[power]
}

/** Fixed wiring is for a licensed person where the unit hangs in it: as far as anybody knows, and whenever it is put into service. */
function needsLicence(view: UnitView, step: StepId, work: Work | null): boolean {
  if (view.board?.fixedWiring !== true) return false
  if (step === 'prove') return true
  return (step === 'open' || work === 'mains') && view.records.arrive.data.mounted !== false
}

/** Gates that stand in front of a step for this unit, in order. */
export function gatesFor(view: UnitView, step: StepId): GateId[] {
  const work = workOf(view, step)
  const own = work ? gatesOfWork[work] : []
  const list = view.board?.mains === false ? own.filter((gate) => !mainsGates.has(gate)) : own
  return needsLicence(view, step, work) ? ['licensed', ...list] : [...list]
}

/** The confirmation that holds now: it does so on its own day only, since the state may have changed overnight. */
export const openGate = (view: UnitView, gate: GateId): GateRecord | null =>
  view.gates.find((g) => g.gate === gate && g.day === view.today) ?? null

export const gateHolds = (view: UnitView, gate: GateId): boolean => openGate(view, gate) !== null

const dayMs = 86_400_000

/**
 * Was the gate confirmed for the work of this step? It is wanted before the next act, not for saying that the last one is
 * over: a confirmation counts that an attempt has ended since, when it is no more than a day older than the last entry.
 */
export function gateWasConfirmed(view: UnitView, step: StepId, gate: GateId): boolean {
  if (gateHolds(view, gate)) return true
  const { updatedAt } = view.records[step]
  const worked = updatedAt === null ? Date.parse(view.now) : Date.parse(updatedAt)
  return view.confirmed.some((c) => c.gate === gate && Date.parse(c.at) > worked - dayMs)
}

export const mainsIsOff = (view: UnitView): boolean => view.board?.mains === false || gateHolds(view, 'mains-off')

/** The discharge clock: it runs from "unplugged". Null while nobody has confirmed that today. */
export function dischargeClock(view: UnitView): { from: string; seconds: number; over: string } | null {
  const unplugged = openGate(view, 'mains-off')
  if (!unplugged) return null
  const seconds = Math.ceil(dischargeWait(view))
  return { from: unplugged.at, seconds, over: new Date(Date.parse(unplugged.at) + seconds * 1000).toISOString() }
}

const nobodyKnows =
  'Nobody has judged whether this board is isolated: it is treated as if every pad were live when plugged in.'

/** The hazard of this board in one sentence; what nobody knows is said so. */
export function hazardOf(view: UnitView, gate: GateId): string {
  const { verdict } = isolationOf(view)
  const by = (isolated: string, live: string) =>
    verdict === 'isolated' ? isolated : verdict === 'non-isolated' ? live : nobodyKnows
  switch (gate) {
    case 'discharged':
      return 'Capacitors of an opened mains unit hold their charge after the plug is out.'
    case 'licensed':
      return 'This unit belongs into fixed wiring: the app records that it was handed over, and gives no instructions for it.'
    case 'current-limit':
      return 'A short on the rail then trips the supply instead of burning the board.'
    case 'case-closed':
      return by(
        'Mains parts are open to touch while the case is.',
        'This board isn’t isolated: every pad, wire and added sensor is live when plugged in.',
      )
    default:
      return by(
        'Serial and mains are never together, on isolated boards too.',
        'This board isn’t isolated: its ground is tied to the mains when it is plugged in.',
      )
  }
}

/** What the gates ask of a step before it counts as done. */
export function gateConditions(view: UnitView, step: StepId): Condition[] {
  const said = must(
    workOf(view, step) !== null,
    'It is said what powers it.',
    'Nobody has said what powers the unit while its pins are tried.',
    'Say whether the adapter, a bench supply or the mains powers it: the gates follow from that.',
  )
  return [
    ...(said.met ? [] : [said]),
    ...gatesFor(view, step).map((gate) =>
      must(
        gateWasConfirmed(view, step, gate),
        `${gateWords[gate].confirm}, confirmed.`,
        `Not confirmed: ${gateTitle(gate, step)}`,
        'Confirm the gate.',
      ),
    ),
  ]
}

const gateInstruction = (view: UnitView, step: StepId, gate: GateId): Instruction =>
  instruction(`gate-${gate}`, gateTitle(gate, step), {
    look: hazardOf(view, gate),
    otherwise: 'Confirm it on the page once you have seen it; it is not ticked for you.',
    caution: true,
    ...(gate === 'discharged' ? { seconds: Math.ceil(dischargeWait(view)) } : {}),
  })

/** The gate that is to be answered before anything else happens at a step; null when none is. */
export const gateInTheWay = (view: UnitView, step: StepId): GateId | null =>
  gatesFor(view, step).find((gate) => !gateHolds(view, gate)) ?? null

/**
 * Was the act of this step done behind its gates? An attempt ends a confirmation, and the gate stands in front of the next
 * one; who only has to say that the step is over does no next act.
 */
export const actIsOver = (view: UnitView, step: StepId): boolean =>
  gatesFor(view, step).every(
    (gate) =>
      gateHolds(view, gate) ||
      view.confirmed.some((c) => c.gate === gate && Date.parse(c.at) > Date.parse(view.now) - dayMs),
  )

/** The gates in front of a step, as a page shows them. */
export interface GatesAt {
  /** All of them, in order. */
  all: GateId[]
  /** Those that hold now, in order. */
  confirmed: GateRecord[]
  /** The one to answer now. */
  inTheWay: GateId | null
  /** The hazard of this board at the one in the way; empty when none is. */
  hazard: string
  clock: ReturnType<typeof dischargeClock>
  /** The act of the step was done behind them. */
  actIsOver: boolean
}

export function gatesAt(view: UnitView, step: StepId): GatesAt {
  const all = gatesFor(view, step)
  const inTheWay = gateInTheWay(view, step)
  return {
    all,
    confirmed: all.flatMap((gate) => openGate(view, gate) ?? []),
    inTheWay,
    hazard: inTheWay ? hazardOf(view, inTheWay) : '',
    clock: inTheWay === 'discharged' ? dischargeClock(view) : null,
    actIsOver: actIsOver(view, step),
  }
}

/** That gate as the one thing to do. */
export function gateFirst(view: UnitView, step: StepId): Instruction | null {
  const gate = gateInTheWay(view, step)
  return gate && gateInstruction(view, step, gate)
}
