import { type Instruction, instruction } from '../boot/entry'
import { dischargeWait, isolationOf } from '../steps/open/facts'
import { type Condition, must } from './condition'
import type { UnitView } from './view'
import { type GateId, gateWords, type StepId, stepOf } from './way'

/** Gates that stand in front of a step for this unit, in order. */
export function gatesFor(view: UnitView, step: StepId): GateId[] {
  const mains = view.board?.mains !== false
  const list = stepOf(step).gates.filter((gate) => mains || gate === 'licensed')
  const onWall =
    view.board?.fixedWiring === true &&
    (step === 'open' || step === 'behaviour' || step === 'meter' || step === 'prove')
  return onWall ? ['licensed', ...list] : [...list]
}

/** A confirmation holds on its own day only: the state may have changed overnight. */
export const gateHolds = (view: UnitView, gate: GateId): boolean =>
  view.gates.some((g) => g.gate === gate && g.day === view.today)

/** The one gate that mains-off confirmation stands for today. */
export const mainsIsOff = (view: UnitView): boolean =>
  view.board?.mains === false || view.gates.some((g) => g.gate === 'mains-off' && g.day === view.today)

/** The hazard of this board in one sentence. */
export function hazardOf(view: UnitView, gate: GateId): string {
  const isolated = isolationOf(view).verdict === 'isolated'
  if (gate === 'discharged') return 'Capacitors of an opened mains unit hold their charge after the plug is out.'
  if (gate === 'case-closed')
    return isolated
      ? 'Mains parts are open to touch while the case is.'
      : 'This board isn’t isolated: every pad, wire and added sensor is live when plugged in.'
  if (gate === 'licensed')
    return 'This unit belongs into fixed wiring: the app records that it was handed over, and gives no instructions for it.'
  return isolated
    ? 'Serial and mains are never together, on isolated boards too.'
    : 'This board isn’t isolated: its ground is tied to the mains when it is plugged in.'
}

export const gateConditions = (view: UnitView, step: StepId): Condition[] =>
  gatesFor(view, step).map((gate) =>
    must(
      gateHolds(view, gate),
      `${gateWords[gate].confirm}, confirmed today.`,
      `Not confirmed today: ${gateWords[gate].title}`,
      'Confirm the gate.',
    ),
  )

const gateInstruction = (view: UnitView, gate: GateId): Instruction =>
  instruction(`gate-${gate}`, gateWords[gate].title, {
    look: hazardOf(view, gate),
    otherwise: 'Confirm it on the page once you have seen it; it is not ticked for you.',
    caution: true,
    ...(gate === 'discharged' ? { seconds: Math.ceil(dischargeWait(view)) } : {}),
  })

export const openGates = (view: UnitView, step: StepId) =>
  gatesFor(view, step)
    .filter((gate) => !gateHolds(view, gate))
    .map((gate) => gateInstruction(view, gate))
