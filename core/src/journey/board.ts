import type { StepData } from './records'

export type Fastener = StepData['open']['fasteners'][number]
export type Terminal = StepData['open']['terminals'][number]
