import type { Finding } from '../../edge/finding'
import { hazardsOf } from '../../open/hazards'
import { legendFindings, orderConflicts, type PhotoTag, photoTags } from '../../open/opening'
import { type Condition, must, plain } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { isolationOf } from './facts'

/** Another unit of this board has photos already: then one of this unit is enough. */
export const boardPhotographed = (view: UnitView): boolean => view.board?.photographed === true

/** Photos that are wanted and not there. */
export function missingPhotos(view: UnitView): PhotoTag[] {
  const photos = view.files.filter((f) => f.kind === 'photo')
  if (boardPhotographed(view)) return photos.length > 0 ? [] : ['board_top']
  const mains = view.board?.mains !== false
  const { noTerminals } = view.records.open.data
  return photoTags.filter((tag) => {
    if (photos.some((p) => p.tag === tag)) return false
    if (tag === 'terminals_with_legend' || tag === 'wire_positions') return mains && !noTerminals
    return tag !== 'outside_rating_label' || mains
  })
}

/** What is wrong with the order of opening, or with opening before the legends were kept. */
export function openFindings(view: UnitView): Finding[] {
  const { fasteners, taken, terminals, noTerminals } = view.records.open.data
  const tags = view.files.flatMap((f) => (f.kind === 'photo' && f.tag ? [f.tag] : []))
  return [
    ...legendFindings({
      taken,
      noTerminals: noTerminals || view.board?.mains === false,
      terminals,
      photoTags: tags,
      boardKnown: boardPhotographed(view),
    }),
    ...orderConflicts(fasteners, taken),
  ]
}

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const { terminals, noTerminals } = view.records.open.data
  const wrong = openFindings(view)[0]
  const named = terminals.filter((t) => t.place.trim() !== '')
  const photos = view.files.filter((f) => f.kind === 'photo')
  const isolation = isolationOf(view)
  const known = boardPhotographed(view)
  const missing = missingPhotos(view)
  return [
    must(
      noTerminals || named.length >= 2,
      noTerminals ? 'It has no terminals.' : `${named.length} terminals are written down.`,
      'The legends are not written down.',
      'Record which terminal is line and which is neutral before taking the cover off.',
    ),
    must(
      missing.length === 0,
      `${photos.length} photo${photos.length === 1 ? '' : 's'} kept.`,
      photos.length === 0 ? 'There is no photo yet.' : `No photo yet of: ${missing.map(plain).join(', ')}.`,
      known ? 'One of this unit is enough: the board has its photos.' : 'Take them before anything is separated.',
    ),
    must(wrong === undefined, 'The order of opening holds.', wrong?.message ?? '', wrong?.next ?? ''),
    must(
      view.board?.mains === false ||
        Object.keys(view.records.open.data.isolation).length > 0 ||
        view.board?.isolation != null,
      `Isolation is judged: ${isolation.verdict}.`,
      'Isolation is not judged.',
      'Answer the questions; “don’t know” is an answer.',
    ),
  ]
}

const takenOff = new Set(['module-off', 'module-replaced'])

/** Does the module come off on this unit's route? */
export const moduleComesOff = (view: UnitView): boolean => view.route !== null && takenOff.has(view.route)

/** Older records were never asked for these. */
export const asked = (view: UnitView): Condition[] => [
  ...(view.board?.mains === false
    ? []
    : [
        must(
          hazardsOf(view) !== null,
          'It was looked at for what can hurt.',
          'Nobody has looked for what in it can hurt a hand.',
          'Look once, and say what you see; “nothing” is an answer.',
        ),
      ]),
  ...(moduleComesOff(view)
    ? [
        must(
          view.records.open.data.moduleOff,
          'The module is off its board.',
          'The module is still on its board.',
          'Take it off, or choose the route over wires in place.',
        ),
      ]
    : []),
]
