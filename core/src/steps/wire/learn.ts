import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'wire'>['learned'] = (view) => {
  const { entry, adapterId, power } = view.records.wire.data
  return { entry, adapterId, power }
}

export const prefill: StepRules<'wire'>['prefill'] = (board, only) => ({
  entry: board?.entry ?? null,
  adapterId: board?.adapterId ?? only.adapterId,
  ...(board?.power ? { power: board.power } : {}),
})
