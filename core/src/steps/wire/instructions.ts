import { entrySteps, type Instruction, instruction } from '../../boot/entry'
import { factsOf, isKnownFamily } from '../../families/families'
import { refitInstructions, refitTick } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { listed } from '../../unit/rules'
import type { UnitView } from '../../unit/view'
import { leadColours, type PadRole } from '../../wiring/wiring'
import { familyOf } from '../identify/facts'
import { padsOf } from '../pads/facts'
import { isMoved, leadsInOrder, leadsOn, withLead } from './leads'
import { ownLeads } from './own-leads'

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

export function leads(view: UnitView): Instruction[] {
  const on = leadsOn(view)
  const list = leadsInOrder(view)
  if (list.length === 0) return []
  return [
    instruction('adapter-out', 'The adapter is not in the computer yet.', {
      look: 'Its TX would feed the part through RX.',
      caution: true,
    }),
    ...list
      .filter((c) => !on.includes(c.pad))
      .map((c) =>
        instruction(
          `lead-${c.pad}`,
          `Adapter ${c.pin} (pin ${c.adapter + 1}) to pad ${c.pad}, ${leadColours[c.pad] ?? 'any colour'}.`,
          {
            look: isMoved(view, c)
              ? 'It was on elsewhere before the adapter or the row changed.'
              : 'It holds when you pull at it a little.',
          },
        ),
      ),
  ]
}

/** Leads of their own come first: a module without its ties is never given power. */
const own = (view: UnitView): Instruction[] =>
  ownLeads(view)
    .filter((l) => !view.records.wire.data.ties.includes(l.id))
    .map((l) => instruction(l.id, `${l.words}.`, { look: l.because, caution: l.kind === 'regulator' }))

export const instructions = (view: UnitView): Instruction[] => [
  ...own(view),
  ...leads(view),
  ...refitInstructions(view, 'wire'),
  ...entryInstructions(view, 'read'),
]

export const tick: StepRules<'wire'>['tick'] = (view, id, done, reading) =>
  refitTick(view, 'wire', id, done, reading) ??
  (ownLeads(view).some((l) => l.id === id)
    ? { ties: listed(view.records.wire.data.ties, id, done) }
    : id.startsWith('lead-')
      ? withLead(view, id.slice('lead-'.length) as PadRole, done)
      : null)
