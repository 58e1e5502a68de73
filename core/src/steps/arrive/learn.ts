import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'arrive'>['learned'] = (view) => ({
  ratedAmps: view.records.arrive.data.ratedAmps,
  ratings: view.records.arrive.data.ratings,
  route: view.records.arrive.data.route,
})

export const prefill: StepRules<'arrive'>['prefill'] = (board) => ({
  ratedAmps: board?.ratedAmps ?? null,
  route: board?.route ?? null,
})
