import { type Finding, finding } from '../../edge/finding'
import { closingFindings } from '../../open/opening'
import { refitConditions } from '../../refit/of-unit'
import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { routes } from '../../unit/way'
import { closingQuestions, nothingWasRecorded } from './questions'

/** A case that is never opened on its route, and is not put together from parts either. */
const staysShut = (view: UnitView): boolean =>
  view.route !== null && view.route !== 'built' && routes[view.route].skips.includes('open')

const missing = (message: string, next: string): Finding =>
  finding('not-closed', 'error', message, 'Nothing was written down at Open.', next)

/** Where Open holds nothing, what came off is counted now. */
function countFindings(view: UnitView): Finding[] {
  if (view.route === 'built' || !nothingWasRecorded(view)) return []
  const { fastenersOut, fastenersBack, looseParts, unharmed } = view.records.close.data
  const out: Finding[] = []
  if (fastenersOut === null || fastenersBack === null)
    out.push(missing('Nobody has said how many fasteners came out and how many are back.', 'Count both; none is 0.'))
  else if (fastenersBack !== fastenersOut)
    out.push(
      missing(
        `${fastenersOut} fasteners came out, ${fastenersBack} are back: the case is not closed.`,
        'Put them back, or correct the count.',
      ),
    )
  if (looseParts === null)
    out.push(missing('Nobody has said whether a part is left over.', 'Count what still lies on the bench; none is 0.'))
  else if (looseParts > 0)
    out.push(missing(`${looseParts} parts are left over: the case is not closed.`, 'Put each back where it was.'))
  if (unharmed === null && view.board?.mains !== false)
    out.push(
      missing(
        'Nobody has said whether the case came apart unharmed.',
        'Say whether force, a blade or heat was needed.',
      ),
    )
  return out
}

function questionFindings(view: UnitView): Finding[] {
  const { answers } = view.records.close.data
  return closingQuestions(view).flatMap((q): Finding[] => {
    const answer = answers[q.id]
    if (answer === q.safe) return []
    return answer === undefined
      ? [
          finding(
            'not-asked',
            'error',
            `Not answered yet: “${q.ask}”.`,
            'Only an answer opens the way to the mains.',
            'Look, then answer.',
          ),
        ]
      : [finding('case-unsafe', 'error', q.wrong, q.ask, q.next)]
  })
}

/** What keeps the case from being closed. */
export function closeFindings(view: UnitView): Finding[] {
  if (staysShut(view)) return []
  const { open, close } = view.records
  return [
    ...countFindings(view),
    // What is known of the board's case is not of the case it was built into.
    ...(view.route === 'built' ? [] : closingFindings(open.data.fasteners, open.data.parts, close.data, view.now)),
    ...questionFindings(view),
  ]
}

const putIn = new Set(['module-off', 'module-replaced', 'built'])

/** Does a module go into its place on this unit's route? */
export const moduleGoesIn = (view: UnitView): boolean => view.route !== null && putIn.has(view.route)

/** In that order: it goes in, then it is measured, then the case is closed. */
export const asked = (view: UnitView): Condition[] => [
  ...(moduleGoesIn(view)
    ? [
        must(
          view.records.close.data.moduleBack,
          'The module is in its place.',
          'The module is not in its place yet.',
          'Solder it in, then measure its contacts.',
        ),
      ]
    : []),
  ...refitConditions(view, 'close'),
]

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const findings = closeFindings(view)
  return findings.length === 0
    ? [must(true, 'Everything that came off is back: 0 left over.', '', '')]
    : findings.map((f) => must(false, '', f.message, f.next))
}
