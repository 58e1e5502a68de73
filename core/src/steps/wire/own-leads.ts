import { contactOfPin } from '../../module/map'
import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { tiesOf, tieWords } from '../../wiring/ties'
import { familyOf } from '../identify/facts'

/** A lead that no adapter's pin and pad of the row make: a tie of a bare module, or one of a regulator's three. */
export interface OwnLead {
  id: string
  kind: 'tie' | 'regulator'
  /** "EN (contact 3) to 3V3 through 10 kΩ" */
  words: string
  because: string
  /** What is wrong while it is not there. */
  without: string
}

const bare = new Set(['module-off', 'module-replaced', 'built'])

function ties(view: UnitView): OwnLead[] {
  if (view.route === null || !bare.has(view.route)) return []
  return tiesOf(familyOf(view)?.family ?? null).map((tie) => {
    const contact = view.module && contactOfPin(view.module, tie.pin, tie.id === 'tie-en')
    const pin = contact === null ? tie.pin : `${tie.pin} (contact ${contact})`
    return {
      id: tie.id,
      kind: 'tie',
      words: tieWords({ ...tie, pin }),
      because: tie.because,
      without: `${pin} of the bare module floats.`,
    }
  })
}

const lead = (id: string, words: string, because: string, without: string): OwnLead => ({
  id,
  kind: 'regulator',
  words,
  because,
  without,
})

/** Its ground first, then its output, measured before it meets the board; its input last. */
const regulatorLeads = (view: UnitView): OwnLead[] =>
  view.records.wire.data.power !== 'regulator'
    ? []
    : [
        lead(
          'reg-gnd',
          'Regulator’s ground to GND',
          'Close to the unit, with a capacitor at its input and one at its output.',
          'The regulator has no ground.',
        ),
        lead(
          'reg-out',
          'Regulator’s output to pad 3V3',
          'Measure it alone first, fed from the adapter: 3.2 to 3.4 V. Then unplug the adapter and join it.',
          'The regulator’s output is not joined.',
        ),
        lead(
          'reg-in',
          'Adapter 5V to the regulator’s input, and to nothing else',
          '5 V on any pad of the row destroys the part.',
          'The regulator is not fed.',
        ),
      ]

/** Leads of their own that this unit needs, in the order in which they are made. */
export const ownLeads = (view: UnitView): readonly OwnLead[] => [...ties(view), ...regulatorLeads(view)]

/** The first one that nobody has made yet; null when all are. */
export const nextOwnLead = (view: UnitView): OwnLead | null =>
  ownLeads(view).find((l) => !view.records.wire.data.ties.includes(l.id)) ?? null

/** Asked before the wiring counts as done. */
export function ownLeadConditions(view: UnitView): Condition[] {
  const all = ownLeads(view)
  if (all.length === 0) return []
  const open = nextOwnLead(view)
  const held = all.some((l) => l.kind === 'tie')
  return [
    must(
      open === null,
      held ? 'Enable and straps of the bare module are tied.' : 'The regulator is joined.',
      open?.without ?? '',
      open ? `Join ${open.words}. ${open.because}` : '',
    ),
  ]
}
