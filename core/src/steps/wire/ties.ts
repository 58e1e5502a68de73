import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { type Tie, tiesOf, tieWords } from '../../wiring/ties'
import { familyOf } from '../identify/facts'

const bare = new Set(['module-off', 'module-replaced', 'built'])

/** Ties that this unit's module needs while it is wired: on its carrier the board makes them. */
export const tiesFor = (view: UnitView): readonly Tie[] =>
  view.route !== null && bare.has(view.route) ? tiesOf(familyOf(view)?.family ?? null) : []

/** The first one that nobody has made yet; null when all are. */
export const nextTie = (view: UnitView): Tie | null =>
  tiesFor(view).find((t) => !view.records.wire.data.ties.includes(t.id)) ?? null

/** Asked before the wiring counts as done. */
export function tieConditions(view: UnitView): Condition[] {
  if (tiesFor(view).length === 0) return []
  const open = nextTie(view)
  return [
    must(
      open === null,
      'Enable and straps of the bare module are tied.',
      open ? `${open.pin} of the bare module floats.` : '',
      open ? `Tie ${tieWords(open)}. ${open.because}` : '',
    ),
  ]
}
