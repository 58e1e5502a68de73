import type { StepRules } from '../../unit/rules'

/** Where there is one hub only, it is the one. */
export const prefill: StepRules<'hub'>['prefill'] = (_, only) => ({ hubId: only.hubId })
