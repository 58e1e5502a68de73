import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

const isLatch = (load: string | null) => load === 'latch-unlocks' || load === 'latch-locks'

/**
 * A latch is never put on a way out unless it opens by hand from inside, without power and without the app (03 §7): nothing
 * goes on before that is settled. Whether people leave that way is asked, and not knowing counts as yes.
 */
export function wayOutConditions(view: UnitView): Condition[] {
  const { load, wayOut, opensByHand } = view.records.arrive.data
  if (!isLatch(load) || wayOut === false) return []
  if (wayOut === null)
    return [
      must(
        false,
        '',
        'Nobody has said whether people leave by what this latch locks.',
        'Say so at Arrive; a latch on a way out has rules of its own.',
      ),
    ]
  return [
    must(
      load === 'latch-unlocks',
      'The latch opens when its supply goes.',
      'A latch that stays shut without power is never put on a way out.',
      'Use one that opens when its supply goes, or keep the app out of it. The local fire code decides.',
    ),
    must(
      opensByHand === true,
      'It opens by hand from inside, without power and without the app.',
      'It does not open by hand from inside without power and without the app, as far as anybody has said.',
      'Fit hardware that does, or leave this door alone. The local fire code decides.',
    ),
  ]
}

/** What it will work is asked of whoever finishes the step. */
export const asked = (view: UnitView): Condition[] => {
  const { load, mounted } = view.records.arrive.data
  return [
    must(
      load !== null,
      load === 'undecided'
        ? 'What it will work is not decided yet.'
        : `It will work a ${load?.replace('-', ' that ')}.`,
      'Nobody has said what it will work.',
      'Choose it; “not decided yet” is an answer.',
    ),
    ...(view.board?.fixedWiring
      ? [
          must(
            mounted !== null,
            mounted ? 'It hangs in fixed wiring now.' : 'It lies on the bench, not in fixed wiring.',
            'Nobody has said whether it hangs in fixed wiring now.',
            'Say where it is: work in fixed wiring is for a licensed person.',
          ),
        ]
      : []),
  ]
}

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const { triedAsSold } = view.records.arrive.data
  return [
    must(
      view.board !== null,
      `It is a ${view.board?.name}.`,
      'The board is not named yet.',
      'Choose a known board, or name a new one.',
    ),
    must(view.route !== null, 'A route is chosen.', 'No route is chosen.', 'Choose how it will get its firmware.'),
    // What was built here was never sold.
    must(
      triedAsSold !== null || view.route === 'built',
      triedAsSold === null
        ? 'Built here: nothing to try as sold.'
        : triedAsSold === 'faulty'
          ? 'Tried as sold: faulty.'
          : 'Tried as sold: it works.',
      'It has not been tried as sold.',
      'Plug it in once, closed, and see whether it works at all.',
    ),
    ...wayOutConditions(view),
  ]
}
