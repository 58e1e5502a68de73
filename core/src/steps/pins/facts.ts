import { isIdle } from '../../pins/template'
import type { UnitView } from '../../unit/view'

export const templateOf = (view: UnitView) => view.records.pins.data.template ?? view.board?.template ?? null

/** Relay and light channels of the template that people switch. */
export function channelsOf(view: UnitView): number[] {
  const outputs = (templateOf(view)?.pins ?? []).filter(
    (p) => !isIdle(p.fn) && ['relay', 'latch-set', 'dim', 'bright', 'cool', 'warm', 'red'].includes(p.fn),
  )
  return [...new Set(outputs.map((p) => p.ch ?? 1))].sort((a, b) => a - b)
}
