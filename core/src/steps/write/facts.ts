import { type Attempt, neverBegan, type UnitView } from '../../unit/view'
import { routes } from '../../unit/way'
import { firmwareChosen } from '../check/facts'

/**
 * The write that stands on the chip: the last one that began, when it ended well. After one that broke off nobody knows what
 * the chip holds, however good an older one was.
 */
export function lastWrite(view: UnitView): Attempt | null {
  const last = view.attempts.find((a) => !neverBegan.has(a.outcome))
  return last?.outcome === 'done' ? last : null
}

/** Firmware that runs now: that of the last good write; without writing on its route, what was noted. Choosing is not writing. */
export function firmwareOf(view: UnitView): string {
  const writes = view.route === null || !routes[view.route].skips.includes('write')
  return writes ? (lastWrite(view)?.firmware ?? '') : firmwareChosen(view)
}
