import { type Condition, firstError, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { isAnswered } from './answered'
import { preflightOf } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const result = preflightOf(view)
  const error = result ? firstError(result.findings) : undefined
  const open = (result?.findings ?? []).filter(
    (f) => f.severity === 'watch' && !isAnswered(view.records.check.data.answered, f),
  )
  return [
    must(
      view.image !== null,
      `${view.image?.name} is chosen.`,
      'No image is chosen.',
      'Drop a file, or choose one from the vault.',
    ),
    must(
      result !== null && error === undefined,
      'Nothing stops it.',
      error?.message ?? 'It cannot be judged yet.',
      error?.next ?? 'Identify the unit and choose an image.',
    ),
    must(
      open.length === 0,
      'All warnings are answered.',
      `${open.length} warning${open.length === 1 ? ' is' : 's are'} open.`,
      'Read each and say that you know.',
    ),
  ]
}
