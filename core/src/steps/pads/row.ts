import { type Finding, finding } from '../../edge/finding'
import { type Family, isArm968, straplessEntry } from '../../families/families'
import { facingRows, type KitModule, padRolesBy, serialRow } from '../../module/map'
import { mostPads, type PadSolution } from '../../pads/solve'
import type { UnitView } from '../../unit/view'
import type { PadRole } from '../../wiring/wiring'
import { familyOf } from '../identify/facts'
import { padStateOf, padsOf } from './facts'

/** What a row of pads has to have, and what a module's contact map says of it. */

/** "contact 9" of a module, "pad 3" of a board. */
export const padCalled = (contacts: readonly number[] | undefined, index: number): string =>
  contacts?.[index] ? `contact ${contacts[index]}` : `pad ${index + 1}`

/** Roles that the way in needs: BOOT only where the family has a strap and no button holds it. */
export function neededRoles(view: UnitView): PadRole[] {
  const byPad = padsOf(view).bootBy === 'pad' && straplessEntry(familyOf(view)?.family) === null
  return ['GND', '3V3', 'TX', 'RX', ...(byPad ? (['BOOT'] as const) : [])]
}

const sureOfRole = 0.9

/** Is every role that the way in needs settled by the readings? What is a reset, or nothing at all, is no reason to go on. */
export const rowSettled = (solution: PadSolution, needed: readonly PadRole[]): boolean =>
  needed.every((role) =>
    solution.best.roles.some((r, i) => r === role && (solution.marginals[i]?.[role] ?? 0) >= sureOfRole),
  )

type PadsData = UnitView['records']['pads']['data']

/** No module: what its map said of the row is known no longer, and what was measured stays. */
export const withoutModule = ({ pads }: Pick<PadsData, 'pads'>) => ({
  moduleId: null,
  contacts: [],
  pads: pads.map(() => 'UNKNOWN' as const),
})

/**
 * What a module of the kit makes of the record of the pads: its contacts as the row. Taken anew, after its map was corrected, it keeps
 * what was measured at each contact; readings of another row are none of this one.
 */
export function withModule(
  module: KitModule,
  before: Pick<PadsData, 'moduleId' | 'contacts' | 'readings'> | null = null,
) {
  const { pads, contacts } = serialRow(module, mostPads)
  const measured = (contact: number) => {
    const at = before?.moduleId === module.id ? before.contacts.indexOf(contact) : -1
    return (at < 0 ? undefined : before?.readings[at]) ?? {}
  }
  return {
    moduleId: module.id,
    pads,
    contacts,
    rows: 1,
    readings: contacts.map(measured),
    pitchMm: module.pitchMm,
    onPhoto: null,
    ...(pads.includes('BOOT') ? { bootBy: 'pad' as const } : {}),
  }
}

/** Below this the meter speaks against the map. */
const spokenAgainst = 0.03

/** Two variants that may not have been told apart yet count as one. */
export const alike = (a: Family, b: Family): boolean => a === b || (isArm968(a) && isArm968(b))

/** Where the row is not what the map says: the map was corrected since, or somebody decided against it. */
function strays(view: UnitView, module: KitModule): Finding[] {
  const { pads, contacts } = view.records.pads.data
  const says = padRolesBy(module)
  return contacts.flatMap((contact, i) => {
    const role = says.get(contact)
    // What the map leaves open may be found out.
    if (role === 'UNKNOWN' || role === pads[i]) return []
    return [
      finding(
        'map-differs',
        'watch',
        `The map says ${role ?? 'no lead'} at contact ${contact}; this row has ${pads[i] === 'UNKNOWN' ? 'nothing' : pads[i]}.`,
        'The map was corrected since, or somebody decided against it.',
        'Name the module once more to take its map as it is now; what was measured stays.',
      ),
    ]
  })
}

/** What speaks against the module that was named: another family, or contacts that the meter finds to be others. */
export function moduleFindings(view: UnitView): Finding[] {
  const { module } = view
  const { moduleId, pads, contacts } = view.records.pads.data
  if (moduleId !== null && !module)
    return [
      finding(
        'module-gone',
        'watch',
        'The module that was named is not in the kit any more.',
        'The row stays as it was taken.',
        'Name another one, or none.',
      ),
    ]
  if (!module) return []
  const family = familyOf(view)?.family ?? null
  const { solution } = padStateOf(view)
  const against = pads.flatMap((role, i) =>
    role !== 'UNKNOWN' && solution && (solution.marginals[i]?.[role] ?? 1) < spokenAgainst ? [{ role, i }] : [],
  )
  return [
    ...(family !== null && !alike(family, module.family)
      ? [
          finding(
            'module-family',
            'error',
            `The map of ${module.name} is of an ${module.family}; this unit is an ${family}.`,
            'Contacts of another module may carry the supply where this one has a signal.',
            'Look at the module’s print again, or name another one.',
          ),
        ]
      : []),
    ...strays(view, module),
    ...against.map(({ role, i }) =>
      finding(
        'map-contradicted',
        'error',
        `The map says ${role} at ${padCalled(contacts, i)}; the meter says no.`,
        'It is another module, or it was counted from the wrong end.',
        'Find the mark of contact 1 on the module, and measure again.',
      ),
    ),
  ]
}

/** Two edges that face each other, for a plug of two rows. */
export const hasTwoRows = (view: UnitView): boolean =>
  view.module ? facingRows(view.module) !== null : (padsOf(view).rows ?? 1) === 2
