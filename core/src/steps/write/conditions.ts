import { type Condition, must } from '../../unit/condition'
import type { AttemptOutcome, UnitView } from '../../unit/view'
import { lastWrite } from './facts'

/** "The last attempt …" */
const howItEnded: Record<AttemptOutcome, string> = {
  done: 'went well',
  'no-answer': 'got no answer',
  'lost-midway': 'was lost midway',
  'verify-failed': 'failed its verify',
  'no-start': 'left it without a start',
  cancelled: 'was cancelled',
}

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const last = lastWrite(view)
  const [newest] = view.attempts
  return [
    must(
      last !== null,
      `Written${last ? `, ${last.minutes} min` : ''}.`,
      newest ? `The last attempt ${howItEnded[newest.outcome]}.` : 'No attempt is logged.',
      'Write it and log how it went.',
    ),
    must(
      last?.verified === true,
      `Checked by ${last?.verify}.`,
      'The content was not checked after writing.',
      'Verify by digest or read-back.',
    ),
    must(
      last === null || view.image === null || last.sha256 === view.image.sha256,
      'It is the image that was checked.',
      'Another image was written than the one that was checked.',
      'Check that image, or write the checked one.',
    ),
  ]
}
