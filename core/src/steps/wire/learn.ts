import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'wire'>['learned'] = (view) => {
  const { entry, adapterId } = view.records.wire.data
  return { entry, adapterId }
}

export const prefill: StepRules<'wire'>['prefill'] = (board, only) => ({
  entry: board?.entry ?? null,
  adapterId: board?.adapterId ?? only.adapterId,
})
