import { type Condition, must } from '../../unit/condition'
import type { StepData } from '../../unit/records'
import type { UnitView } from '../../unit/view'
import type { Connection, PadRole } from '../../wiring/wiring'
import { padsOf } from '../pads/facts'
import { wiringOf } from './facts'

/** Leads between adapter and pads: which come when, and which are on as they are planned now. */

/** Leads in the order to connect: ground first, supply last; the adapter is not in the computer yet. */
export function leadsInOrder(view: UnitView): Connection[] {
  const rank = (pad: PadRole) => (pad === 'GND' ? 0 : pad === '3V3' || pad === '5V' ? 2 : 1)
  return [...(wiringOf(view)?.connections ?? [])].sort((a, b) => rank(a.pad) - rank(b.pad))
}

/** From where to where a lead goes, as one text to compare: pin of the adapter, place of the pad in the row. */
const wayOf = (view: UnitView, { adapter, pad }: Connection): string =>
  [view.adapter?.id, adapter + 1, view.module?.id ?? 'row', padsOf(view).pads.indexOf(pad) + 1].join(' ')

/** It was said to be on, from another pin or to another pad than it is planned now: where it goes has to be looked at. */
export function isMoved(view: UnitView, lead: Connection): boolean {
  const { joined, leadsAt } = view.records.wire.data
  const at = leadsAt[lead.pad]
  return joined.includes(lead.pad) && at !== undefined && at !== wayOf(view, lead)
}

/** Pads whose lead is on as it is planned now: another adapter, or another row, and it is not. */
export const leadsOn = (view: UnitView): PadRole[] =>
  leadsInOrder(view)
    .filter((c) => view.records.wire.data.joined.includes(c.pad) && !isMoved(view, c))
    .map((c) => c.pad)

/** The lead that comes next; null when all are on. */
export function nextLead(view: UnitView): Connection | null {
  const on = leadsOn(view)
  return leadsInOrder(view).find((c) => !on.includes(c.pad)) ?? null
}

/** What the record says when somebody put a lead on, or took it off. */
export function withLead(view: UnitView, pad: PadRole, on: boolean): Partial<StepData['wire']> {
  const { joined, leadsAt } = view.records.wire.data
  const lead = leadsInOrder(view).find((c) => c.pad === pad)
  const { [pad]: _, ...others } = leadsAt
  return {
    joined: on ? [...joined.filter((x) => x !== pad), pad] : joined.filter((x) => x !== pad),
    leadsAt: on && lead ? { ...others, [pad]: wayOf(view, lead) } : others,
  }
}

/** What the record says when somebody put on all that are left. */
export function withAllLeads(view: UnitView): Partial<StepData['wire']> {
  const leads = leadsInOrder(view)
  const { joined } = view.records.wire.data
  return {
    joined: [...new Set([...joined, ...leads.map((c) => c.pad)])],
    leadsAt: Object.fromEntries(leads.map((c) => [c.pad, wayOf(view, c)])),
  }
}

/** Every lead is on as it is planned now: asked before the step is done, since power comes next. */
export function leadConditions(view: UnitView): Condition[] {
  const all = leadsInOrder(view)
  if (all.length === 0) return []
  const moved = all.filter((c) => isMoved(view, c)).map((c) => c.pad)
  return [
    must(
      nextLead(view) === null,
      `All ${all.length} leads are on.`,
      moved.length > 0
        ? `Before the adapter or the row changed, ${moved.join(', ')} went elsewhere.`
        : `${leadsOn(view).length} of ${all.length} leads are on.`,
      moved.length > 0 ? 'Look where each lead goes now.' : 'Say when the next is on, or that all are.',
    ),
  ]
}
