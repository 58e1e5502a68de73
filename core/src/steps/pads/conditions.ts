import { straplessEntry } from '../../families/families'
import { type Condition, must } from '../../unit/condition'
import { fromOthers, looksOf } from '../../unit/own-look'
import type { UnitView } from '../../unit/view'
import { familyOf } from '../identify/facts'
import { padStateOf, padsOf, railsOpen, railsProven } from './facts'
import { moduleFindings } from './row'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const row = padsOf(view)
  const family = familyOf(view)?.family ?? null
  const missing = (['GND', '3V3', 'TX', 'RX'] as const).filter((role) => !row.pads.includes(role))
  const strapless = straplessEntry(family) !== null
  const boot = strapless || row.bootBy === 'button' || (row.bootBy === 'pad' && row.pads.includes('BOOT'))
  const proven = railsProven(view)
  const open = railsOpen(view)
  const wrong = moduleFindings(view).find((f) => f.severity === 'error')
  return [
    must(
      proven,
      padStateOf(view).readings > 0
        ? 'GND and 3V3 are proven.'
        : looksOf(view).pads
          ? `GND and 3V3 as measured ${fromOthers(view)}; this unit’s row was looked at.`
          : `GND and 3V3 as measured ${fromOthers(view)}.`,
      open.says,
      open.next,
    ),
    must(
      missing.length === 0,
      'GND, 3V3, TX and RX are known.',
      `Not known yet: ${missing.join(', ')}.`,
      'Measure, and set the role of each pad.',
    ),
    ...(wrong ? [must(false, '', wrong.message, wrong.next)] : []),
    must(
      boot,
      strapless ? 'This family needs no boot strap.' : `BOOT is reached by ${row.bootBy}.`,
      'How BOOT is reached is not known.',
      'Find its pad, or a button that joins it to ground.',
    ),
  ]
}

/** One look at this unit, whatever its board taught. */
export const asked = (view: UnitView): Condition[] =>
  view.board?.pads == null
    ? []
    : [
        must(
          looksOf(view).pads,
          'Its own row was looked at.',
          `Known ${fromOthers(view)}; nobody has looked at this unit’s pads yet.`,
          'One photo of it, or one reading, is enough.',
        ),
      ]
