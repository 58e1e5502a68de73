import { hasError } from '../../edge/finding'
import { checkTemplate } from '../../pins/check'
import { needsRestoring } from '../../pins/session'
import { confidenceOf, isIdle } from '../../pins/template'
import { type Condition, firstError, must } from '../../unit/condition'
import { fromOthers, looksOf } from '../../unit/own-look'
import type { UnitView } from '../../unit/view'
import { templateOf } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const template = templateOf(view)
  const { session } = view.records.pins.data
  const check = template ? checkTemplate(template) : null
  const used = template?.pins.filter((p) => !isIdle(p.fn)) ?? []
  const open = used.filter((p) => confidenceOf(p.evidence) !== 'confirmed')
  return [
    ...(session === null
      ? []
      : [
          must(
            !needsRestoring(session),
            'Trial functions are set back.',
            'Functions that were set for trials may still be set in the unit.',
            'Set all of them back to unused, and say so.',
          ),
        ]),
    must(used.length > 0, `${used.length} pins are recorded.`, 'No pin is recorded.', 'Add the pins you found.'),
    must(
      check !== null && !hasError(check.findings),
      'The template is possible.',
      check ? (firstError(check.findings)?.message ?? '') : 'There is no template.',
      'Correct the pin.',
    ),
    must(
      used.length > 0 && open.length === 0,
      looksOf(view).pins ? 'Every used pin is confirmed.' : `Every used pin was seen twice, ${fromOthers(view)}.`,
      open.length > 0 ? `Not confirmed yet: ${open.map((p) => p.pin).join(', ')}.` : 'Nothing is confirmed yet.',
      'See each in two sittings, with a power cycle between.',
    ),
  ]
}

/** One look at this unit, whatever its board taught. */
export const asked = (view: UnitView): Condition[] =>
  view.board?.template == null
    ? []
    : [
        must(
          looksOf(view).pins,
          'Pins were seen on this unit.',
          `Known ${fromOthers(view)}; nobody has seen a pin of this unit do its work yet.`,
          'See one of them do its work here.',
        ),
      ]
