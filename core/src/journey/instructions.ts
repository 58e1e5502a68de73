import { entrySteps, type Instruction, instruction } from '../boot/entry'
import { factsOf, isKnownFamily } from '../families/families'
import { itemSentence } from '../open/opening'
import { howTo } from '../pads/how'
import type { NextReading } from '../pads/solve'
import { leadColours, type PadRole } from '../wiring/wiring'
import { conditionsOf, gateHolds, gatesFor, hazardOf, missingPhotos } from './conditions'
import { dischargeWait, familyOf, padStateOf, padsOf, wiringOf } from './facts'
import type { StepData } from './records'
import { type GateId, gateWords, type StepId } from './steps'
import type { UnitView } from './view'

/** A step as single instructions, one at a time, for hands that are busy. Made from what is known of this unit. */

const gateInstruction = (view: UnitView, gate: GateId): Instruction =>
  instruction(`gate-${gate}`, gateWords[gate].title, {
    look: hazardOf(view, gate),
    otherwise: 'Confirm it on the page once you have seen it; it is not ticked for you.',
    caution: true,
    ...(gate === 'discharged' ? { seconds: Math.ceil(dischargeWait(view)) } : {}),
  })

const openGates = (view: UnitView, step: StepId) =>
  gatesFor(view, step)
    .filter((gate) => !gateHolds(view, gate))
    .map((gate) => gateInstruction(view, gate))

/** "P3": its printed name, or its place in the row. */
export const padName = (view: UnitView, index: number): string => {
  const label = view.records.pads.data.readings[index]?.label
  return label ? `${index + 1} (${label})` : String(index + 1)
}

/** Where to put which probe for a reading. */
export function readingInstruction(view: UnitView, next: NextReading): Instruction {
  const how = howTo[next.measure]
  return instruction(`pad-${next.pad}-${next.measure}`, `Pad ${padName(view, next.pad)}: ${how.title.toLowerCase()}.`, {
    look:
      how.black === '–'
        ? `${how.setting}. Enter ${how.enter}.`
        : `Meter on ${how.setting}. Black on ${how.black}. Red on ${how.red}. Enter ${how.enter}.`,
    otherwise: how.powered
      ? '3.3 V from the bench supply or adapter only, the unit off the mains.'
      : 'Nothing powers the board while you do this.',
    caution: how.powered,
  })
}

/** The way into download mode for this unit; empty until family and way are known. */
export function entryInstructions(view: UnitView, purpose: 'read' | 'write'): Instruction[] {
  const family = familyOf(view)?.family
  const method = view.records.wire.data.entry ?? view.board?.entry ?? null
  if (!family || !isKnownFamily(family) || method === null) return []
  const pads = padsOf(view)
  return entrySteps({
    facts: factsOf(family),
    method,
    bootBy: pads.bootBy,
    hasReset: pads.pads.includes('RST'),
    power: view.records.wire.data.power,
    mains: view.board?.mains !== false,
    purpose,
  })
}

/** Leads in the order to connect: ground first, supply last; the adapter is not in the computer yet. */
export function leadsInOrder(view: UnitView) {
  const rank = (pad: PadRole) => (pad === 'GND' ? 0 : pad === '3V3' || pad === '5V' ? 2 : 1)
  return [...(wiringOf(view)?.connections ?? [])].sort((a, b) => rank(a.pad) - rank(b.pad))
}

function opening(view: UnitView): Instruction[] {
  const { fasteners, taken, parts } = view.records.open.data
  return [
    ...missingPhotos(view).map((tag) =>
      instruction(`photo-${tag}`, `Take a photo: ${tag.replaceAll('_', ' ')}.`, {
        look: 'Sharp enough to read the legend on it.',
      }),
    ),
    ...fasteners
      .filter((f) => !taken.includes(f.id))
      .map((f) =>
        instruction(`out-${f.id}`, `Take out ${itemSentence(f)}.`, {
          look: f.note,
          otherwise:
            f.restore === 'glue'
              ? 'This has to be glued again before any mains.'
              : f.kind === 'clip'
                ? 'Start at the end opposite the socket, and count what breaks.'
                : '',
          caution: f.restore === 'glue',
        }),
      ),
    ...(parts.length > 0
      ? [instruction('parts', `Put these aside: ${parts.join(', ')}.`, { look: 'Closing asks for each.' })]
      : []),
  ]
}

function closing(view: UnitView): Instruction[] {
  const { fasteners, parts } = view.records.open.data
  const { restored, partsBack } = view.records.close.data
  return [
    instruction('wires-off', 'Take every wire, jig and adapter off the board; solder wires come off too.', {
      look: 'Nothing leads out of the case that did not come with it.',
      caution: true,
    }),
    ...parts.filter((p) => !partsBack.includes(p)).map((p) => instruction(`part-${p}`, `Put the ${p} back.`, {})),
    ...[...fasteners]
      .reverse()
      .filter((f) => (restored[f.id] ?? 0) < f.count)
      .map((f) =>
        instruction(`back-${f.id}`, `Put back ${itemSentence(f)}.`, {
          look: f.restore === 'glue' ? 'Glue it, and write down when.' : f.note,
          caution: f.restore === 'glue',
        }),
      ),
  ]
}

function leads(view: UnitView): Instruction[] {
  const joined = view.records.wire.data.joined
  const list = leadsInOrder(view)
  if (list.length === 0) return []
  return [
    instruction('adapter-out', 'The adapter is not in the computer yet.', {
      look: 'Its TX would feed the part through RX.',
      caution: true,
    }),
    ...list
      .filter((c) => !joined.includes(c.pad))
      .map((c) =>
        instruction(
          `lead-${c.pad}`,
          `Adapter ${c.pin} (pin ${c.adapter + 1}) to pad ${c.pad}, ${leadColours[c.pad] ?? 'any colour'}.`,
          { look: 'It holds when you pull at it a little.' },
        ),
      ),
  ]
}

/**
 * What doing an instruction changes in the record of its step, or null where nothing is ticked: the bench view keeps the
 * page in step with the hands. Going back takes the tick off again.
 */
export function tickOff(
  view: UnitView,
  step: StepId,
  id: string,
  done: boolean,
): Partial<StepData['wire'] | StepData['open'] | StepData['close']> | null {
  const what = id.slice(id.indexOf('-') + 1)
  const listed = (list: readonly string[]) => [...list.filter((x) => x !== what), ...(done ? [what] : [])]
  if (step === 'wire' && id.startsWith('lead-'))
    return { joined: listed(view.records.wire.data.joined) as StepData['wire']['joined'] }
  if (step === 'open' && id.startsWith('out-')) return { taken: listed(view.records.open.data.taken) }
  if (step === 'close' && id.startsWith('part-')) return { partsBack: listed(view.records.close.data.partsBack) }
  if (step === 'close' && id.startsWith('back-')) {
    const fastener = view.records.open.data.fasteners.find((f) => f.id === what)
    if (!fastener) return null
    const { [what]: before = 0, ...others } = view.records.close.data.restored
    return { restored: done ? { ...others, [what]: Math.max(before, fastener.count) } : others }
  }
  return null
}

/** The instructions of a step; where it has none of its own, what is still open, one at a time. */
export function instructionsOf(view: UnitView, step: StepId): Instruction[] {
  const gates = openGates(view, step)
  const own = (): Instruction[] => {
    if (step === 'open') return opening(view)
    if (step === 'pads') return (padStateOf(view).solution?.next ?? []).map((next) => readingInstruction(view, next))
    if (step === 'wire') return [...leads(view), ...entryInstructions(view, 'read')]
    if (step === 'backup') return entryInstructions(view, 'read')
    if (step === 'write') return entryInstructions(view, 'write')
    if (step === 'close') return closing(view)
    return []
  }
  const list = [...gates, ...own()]
  if (list.length > gates.length) return list
  return [
    ...gates,
    ...conditionsOf(view, step)
      .filter((c) => !c.met && !c.text.startsWith('Not confirmed today'))
      .map((c, i) => instruction(`open-${i}`, c.next, { look: c.text })),
  ]
}
