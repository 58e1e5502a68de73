import type { Attempt, UnitView } from '../unit/view'
import {
  type FailureStory,
  failureStory,
  linkOverhead,
  medianOf,
  methodOf,
  ratesBy,
  type SuccessRate,
  triesPerUnit,
} from './attempts'

/** What attempts teach for the next one, counted: a page shows this of a hundred of them. */
export interface Tried {
  /** How many attempts it is about. */
  count: number
  /** Success per adapter and way in together, per adapter, per way in and per tool; the best few, best first. */
  methods: SuccessRate[]
  adapters: SuccessRate[]
  ways: SuccessRate[]
  /** Of those that name a tool. */
  tools: SuccessRate[]
  /** Median of the minutes of a good one, and of the tries until it; null while there is none. */
  minutes: number | null
  tries: number | null
  /** The last that failed. */
  last: Pick<Attempt, 'outcome' | 'unitNumber' | 'at' | 'message'> | null
  story: FailureStory | null
  /** Per adapter, what a write takes as a multiple of its bytes on the line. */
  overheads: Record<string, number>
}

const mostRates = 4

/** A tool on the system it ran on, as a person calls them. */
const toolOf = (a: Attempt) => [a.tool, a.system].filter(Boolean).join(', on ')

const lastOf = ({ outcome, unitNumber, at, message }: Attempt): Tried['last'] => ({ outcome, unitNumber, at, message })

function overheadsOf(attempts: readonly Attempt[]): Record<string, number> {
  const adapters = new Set(attempts.map((a) => a.adapter))
  const pairs = [...adapters].flatMap((adapter): [string, number][] => {
    const overhead = linkOverhead(attempts, adapter)
    return overhead === null ? [] : [[adapter, overhead]]
  })
  return Object.fromEntries(pairs)
}

/** @param attempts of one kind, reads or writes, newest first */
export function triedOf(attempts: readonly Attempt[]): Tried {
  const best = (among: readonly Attempt[], keyOf: (a: Attempt) => string) => ratesBy(among, keyOf).slice(0, mostRates)
  const failed = attempts.find((a) => a.outcome !== 'done' && a.outcome !== 'cancelled')
  return {
    count: attempts.length,
    methods: best(attempts, methodOf),
    adapters: best(attempts, (a) => a.adapter || 'not said'),
    ways: best(attempts, (a) => a.entry ?? 'not said'),
    tools: best(
      attempts.filter((a) => a.tool),
      toolOf,
    ),
    minutes: medianOf(attempts.filter((a) => a.outcome === 'done' && a.minutes > 0).map((a) => a.minutes)),
    tries: medianOf(triesPerUnit(attempts)),
    last: failed ? lastOf(failed) : null,
    story: failureStory(attempts),
    overheads: overheadsOf(attempts),
  }
}

/** What reads taught: on its board, or on the unit itself where nobody knows the board or it was not counted. */
export const readsTried = (view: UnitView): Tried => view.board?.tried?.reads ?? triedOf(view.reads)
/** The same of writes. */
export const writesTried = (view: UnitView): Tried => view.board?.tried?.writes ?? triedOf(view.attempts)
