import { loadOf } from '../../load/of-unit'
import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { powerCutOf } from './cut'

/** Nothing goes into service before it is known what it works. */
export const asked = (view: UnitView): Condition[] => {
  const { load } = view.records.arrive.data
  return [
    must(
      load !== null && load !== 'undecided',
      'It is known what it works.',
      'Nobody has said what it works.',
      'Choose its load at Arrive.',
    ),
  ]
}

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const cut = powerCutOf(view)
  const before = view.records.prove.data.powerCut !== cut
  const stops = (loadOf(view)?.check.findings ?? []).filter((f) => f.severity === 'error')
  return [
    ...stops.map((f) => must(false, '', f.message, f.next || 'See the load check at Arrive.')),
    must(
      cut !== null && cut.cameBack === 'as wanted' && cut.seconds >= 10,
      'It came back as wanted after a power cut.',
      cut
        ? cut.seconds < 10
          ? 'The cut was shorter than 10 s.'
          : cut.cameBack === null
            ? 'Nobody has said how it came back.'
            : 'It came back otherwise.'
        : before
          ? 'Its power was cut before it was changed, not since.'
          : 'No power cut was tried.',
      'Switch its supply off for 10 s and watch it come back.',
    ),
  ]
}
