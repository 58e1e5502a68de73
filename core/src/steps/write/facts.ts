import type { UnitView } from '../../unit/view'
import { routes } from '../../unit/way'
import { firmwareChosen } from '../check/facts'

export const lastWrite = (view: UnitView) => view.attempts.find((a) => a.outcome === 'done') ?? null

/** Firmware that runs now: that of the last good write; without writing on its route, what was noted. Choosing is not writing. */
export function firmwareOf(view: UnitView): string {
  const writes = view.route === null || !routes[view.route].skips.includes('write')
  return writes ? (lastWrite(view)?.firmware ?? '') : firmwareChosen(view)
}
