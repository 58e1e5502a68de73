import { isIdle } from '../pins/template'
import type { UnitView } from './view'

/**
 * What a board taught is inherited until somebody looks at this unit: one look makes it the unit's own. A photo or one check is
 * enough where the board is well known; none is not.
 */

const photographed = (view: UnitView): boolean => view.files.some((f) => f.kind === 'photo')

export interface OwnLooks {
  identify: boolean
  pads: boolean
  pins: boolean
}

export function looksOf(view: UnitView): OwnLooks {
  const { identify, pads, pins } = view.records
  const mine = String(view.number)
  return {
    // Counts of a marking are what other units were found to be.
    identify:
      identify.data.evidence.some((e) => e.kind !== 'marking') ||
      identify.data.printed.trim() !== '' ||
      photographed(view),
    pads: pads.data.readings.some((r) => Object.values(r).some((x) => x !== undefined)) || photographed(view),
    pins: (pins.data.template?.pins ?? []).some(
      (p) => !isIdle(p.fn) && (p.evidence ?? []).some((e) => e.agrees && e.unit === mine),
    ),
  }
}

const two = (n: number) => String(n).padStart(2, '0')
const mostNamed = 3

/** "from units 05 and 06", the others of this unit's board. */
export function fromOthers(view: UnitView): string {
  const others = (view.board?.unitNumbers ?? []).filter((n) => n !== view.number)
  if (others.length === 0) return 'from the record of its board'
  const named = others.slice(0, mostNamed).map(two)
  const more = (view.board?.unitCount ?? 0) - 1 > mostNamed ? ' and others' : ''
  return `from unit${others.length === 1 ? '' : 's'} ${named.length > 1 && !more ? `${named.slice(0, -1).join(', ')} and ${named.at(-1)}` : named.join(', ')}${more}`
}
