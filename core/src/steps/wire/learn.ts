import { railLearned } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'wire'>['learned'] = (view) => {
  const { entry } = view.records.wire.data
  // One that is in the kit: a record may name any.
  return { entry, adapterId: view.adapter?.id ?? null, railOhms: railLearned(view, 'wire') }
}

export const prefill: StepRules<'wire'>['prefill'] = (board, only) => ({
  entry: board?.entry ?? null,
  adapterId: board?.adapterId ?? only.adapterId,
})
