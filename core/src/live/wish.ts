import type { UnitView } from '../unit/view'

/** Before something is switched from afar: what hangs on it, and who has to look (brief 05 §5, §6). */

const moving: Record<string, string> = {
  heater: 'A heater comes on or goes off: somebody has to be there, and nothing may lie on it.',
  motor: 'Something moves: nobody may be in its way.',
  pump: 'A pump runs: it must not run dry, and somebody has to be there.',
  fan: 'A fan turns: nothing may be in it.',
  'latch-unlocks': 'A lock opens or shuts: know who is behind it, and that it opens by hand.',
  'latch-locks': 'A lock opens or shuts: know who is behind it, and that it opens by hand.',
}

/** Why a press has to be sure: null where nothing on record can hurt. What nobody knows is asked about too. */
export function asksFirst(view: Pick<UnitView, 'records'>): string | null {
  const { load } = view.records.arrive.data
  if (load === null || load === 'undecided') return 'Nobody has said what hangs on it: look before you switch it.'
  return moving[load] ?? null
}

/** A press is sent within this time, or not at all: a heater must not come on hours later. Seconds. */
export const wishLivesS = 10
/** What comes back within this time is an answer to it, seconds. */
export const answerWithinS = 10
