import { type Finding, finding } from '../edge/finding'

/** Answers to the isolation questions. `unknown` is an honest answer and is treated as the dangerous one. */
export type Answer = 'yes' | 'no' | 'unknown'

export const isolationQuestions = [
  { id: 'dropper', ask: 'Is the supply a capacitive or resistive dropper?', unsafe: 'yes', because: 'dropper supply' },
  {
    id: 'noTransformer',
    ask: 'Is there no transformer between mains and the 3.3 V rail?',
    unsafe: 'yes',
    because: 'no transformer',
  },
  {
    id: 'mainsSense',
    ask: 'Is there a mains-sensing input without an optocoupler?',
    unsafe: 'yes',
    because: 'mains sensed without an optocoupler',
  },
  {
    id: 'shuntOnMains',
    ask: 'Is the meter’s shunt on line or neutral with its ground?',
    unsafe: 'yes',
    because: 'the meter ties its ground to the mains',
  },
  {
    id: 'below1M',
    ask: 'Unpowered: less than 1 MΩ between L or N and low-voltage GND?',
    unsafe: 'yes',
    because: 'less than 1 MΩ to the mains',
  },
  {
    id: 'optocoupler',
    ask: 'A transformer with optocoupler or primary-side feedback?',
    unsafe: 'no',
    because: 'no optocoupler or primary-side feedback',
  },
  {
    id: 'gap',
    ask: 'A clear gap or slot of 6 mm or more between mains and low-voltage areas?',
    unsafe: 'no',
    because: 'no clear gap',
  },
  {
    id: 'above10M',
    ask: 'Unpowered: more than 10 MΩ both ways from L and N to GND?',
    unsafe: 'no',
    because: 'not 10 MΩ both ways',
  },
] as const
export type IsolationAnswers = Partial<Record<(typeof isolationQuestions)[number]['id'], Answer>>

export type IsolationVerdict = 'isolated' | 'non-isolated' | 'unknown'

export interface Isolation {
  verdict: IsolationVerdict
  reasons: string[]
}

/**
 * Non-isolated if any of the first five is so; isolated only if the last three all are, and none of the first. Anything
 * else is unknown, and treated as non-isolated.
 */
export function judgeIsolation(answers: IsolationAnswers): Isolation {
  const against = isolationQuestions.filter((q) => q.unsafe === 'yes' && answers[q.id] === 'yes').map((q) => q.because)
  if (against.length > 0) return { verdict: 'non-isolated', reasons: against }
  const proofs = isolationQuestions.filter((q) => q.unsafe === 'no')
  const denied = isolationQuestions.filter((q) => q.unsafe === 'yes').every((q) => answers[q.id] === 'no')
  if (denied && proofs.every((q) => answers[q.id] === 'yes'))
    return { verdict: 'isolated', reasons: ['transformer with feedback', 'a clear gap', 'more than 10 MΩ both ways'] }
  return { verdict: 'unknown', reasons: ['not every question is answered in its favour: treated as non-isolated'] }
}

/**
 * The question that tells most now: one that alone settles it, while any is open; the proofs only when nothing speaks
 * against isolation, since they decide nothing otherwise. Null when no answer would change the verdict.
 */
export function nextIsolationQuestion(answers: IsolationAnswers): (typeof isolationQuestions)[number] | null {
  const settling = isolationQuestions.filter((q) => q.unsafe === 'yes')
  if (settling.some((q) => answers[q.id] === 'yes')) return null
  const open = settling.find((q) => answers[q.id] === undefined)
  if (open) return open
  if (settling.some((q) => answers[q.id] !== 'no')) return null
  const proofs = isolationQuestions.filter((q) => q.unsafe === 'no')
  if (proofs.some((q) => answers[q.id] !== undefined && answers[q.id] !== 'yes')) return null
  return proofs.find((q) => answers[q.id] === undefined) ?? null
}

export interface Discharge {
  /** Time for the voltage to fall to 30 V, and the wait before touching: max(300 s, twice that). */
  seconds: number
  waitSeconds: number
  joules: number
}

const safeVolts = 30
const leakageOhms = 10e6

/** t = R·C·ln(V0/30 V), E = ½·C·V0², V0 = √2 × mains RMS. An unknown bleeder counts as 10 MΩ. */
export function dischargeOf(microfarads: number, ohms: number | null, mainsVolts = 230): Discharge | Finding {
  const r = ohms ?? leakageOhms
  if (!(microfarads > 0) || !(r > 0))
    return finding(
      'discharge-range',
      'error',
      'Resistance and capacitance must be above zero.',
      '',
      'Correct the number, or leave the bleeder empty.',
    )
  const v0 = Math.SQRT2 * mainsVolts
  const c = microfarads * 1e-6
  const seconds = r * c * Math.log(v0 / safeVolts)
  return { seconds, waitSeconds: Math.max(300, 2 * seconds), joules: 0.5 * c * v0 * v0 }
}
