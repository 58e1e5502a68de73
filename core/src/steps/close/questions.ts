import type { UnitView } from '../../unit/view'

/** What is asked before a case counts as closed, beside counting: only answers open the way to the mains (07 §12). */
export interface ClosingQuestion {
  id: string
  ask: string
  /** The answer with which it may go on the mains. */
  safe: 'yes' | 'no'
  /** What the other answer means. */
  wrong: string
  next: string
}

const question = (id: string, ask: string, safe: 'yes' | 'no', wrong: string, next: string): ClosingQuestion => ({
  id,
  ask,
  safe,
  wrong,
  next,
})

const tug = question(
  'holds-tug',
  'Does the closed case hold a firm tug?',
  'yes',
  'The case opens at a tug.',
  'Glue or clamp it until it holds, or use another case.',
)
const finger = question(
  'finger-reaches',
  'Can a finger, or a rod of 12 mm, reach a mains part?',
  'no',
  'A finger can reach a mains part.',
  'Close the gap before it goes on the mains, or use another case.',
)
const crack = question(
  'crack-near-mains',
  'Is the crack or damage near a mains part?',
  'no',
  'The case is damaged near a mains part.',
  'Repair it there, or use another case.',
)

const builtQuestions: readonly ClosingQuestion[] = [
  question(
    'polarity-metered',
    'Was the polarity of the supply measured before the module went in?',
    'yes',
    'Nobody has measured the polarity of the supply.',
    'Take the module out and measure: the wrong way round destroys it.',
  ),
  question(
    'creepage-kept',
    'Are mains parts and low-voltage parts at least 6 mm apart everywhere?',
    'yes',
    'Mains and low voltage are too close.',
    'Move or insulate them.',
  ),
  question(
    'strain-relieved',
    'Are the mains leads held against pulling?',
    'yes',
    'A pull at the lead pulls at the terminals.',
    'Fit a strain relief.',
  ),
  question(
    'conductors-covered',
    'Are all mains conductors covered?',
    'yes',
    'A mains conductor lies open.',
    'Cover it.',
  ),
  question('fuse-fitted', 'Is a fuse that fits the load in line?', 'yes', 'There is no fitting fuse.', 'Fit one.'),
  question(
    'bare-ends',
    'Is any bare wire end left?',
    'no',
    'A bare wire end is left.',
    'Cut it, cover it or put it into a terminal: a bare end is never confirmed away.',
  ),
]

/** Nothing that came off was written down at Open: Close then asks itself. */
export const nothingWasRecorded = ({ records }: UnitView): boolean =>
  records.open.data.fasteners.length === 0 && records.open.data.parts.length === 0

/** The questions that this unit’s case has to answer, in order. */
export function closingQuestions(view: UnitView): readonly ClosingQuestion[] {
  if (view.board?.mains === false) return []
  if (view.route === 'built') return builtQuestions
  const { fasteners, forced, damage } = view.records.open.data
  const { clipsBroken, unharmed } = view.records.close.data
  const glued = fasteners.some((f) => f.kind === 'glue' || f.kind === 'heat_seal' || f.restore === 'glue')
  const harmed = unharmed === 'no'
  const broken = forced || harmed
  const damaged = damage.trim() !== '' || harmed
  return [
    ...(broken || damaged || glued || clipsBroken > 0 ? [tug] : []),
    ...(broken || damaged || glued ? [finger] : []),
    ...(damaged || broken ? [crack] : []),
  ]
}
