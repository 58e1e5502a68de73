import type { Inference } from '@fresh-coat/core/pins/infer'
import type { Hazard, ProbePlan } from '@fresh-coat/core/pins/probe-plan'
import type { ProbeSession, Rest, SignId } from '@fresh-coat/core/pins/session'
import type { RollSign } from '@/components/drawings/trial-roll'

/** A search for pins as its cards and its drawing see it, and the words for it. */

export interface At {
  session: ProbeSession
  plan: ProbePlan
  found: Inference
  put: (change: Partial<ProbeSession>) => void
  sitting: number
}

export const signNames: Record<SignId, string> = { click: 'click', led: 'light', bright: 'dimmed light', load: 'load' }
export const lookedFor: Record<SignId, string> = {
  click: 'Relays that click',
  led: 'Lights, on or off',
  bright: 'Lamps that dim',
  load: 'Loads, by a small lamp',
}
export const seenWords: Record<SignId, string> = {
  click: 'It clicked',
  led: 'The light is on',
  bright: 'The lamp is on',
  load: 'The load is on',
}
export const hazardWords: Record<Hazard, string> = {
  latching: 'A relay with two coils',
  bridge: 'A motor bridge',
  motor: 'A motor with two relays',
  heater: 'A heater',
}
export const methodWords: Record<ProbePlan['method'], string> = {
  single: 'one pin at a time',
  code: 'each pin’s yes and no spell its number',
  halving: 'half of them at a time',
}
export const kindOf = (sign: string): RollSign['kind'] => (sign === 'click' ? 'edge' : 'level')
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
export const percent = (p: number): string => `${(p * 100).toFixed(p > 0.99 ? 1 : 0)} %`

/** What a pin does by itself; a free one says nothing. */
export const restWords: Record<Rest, string> = {
  free: '',
  'held-low': 'held low',
  'held-high': 'held high',
  changes: 'changes by itself',
}
