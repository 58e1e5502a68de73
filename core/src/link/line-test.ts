import { finding } from '../edge/finding'
import { type Flow, fence, type Line, type LinkFinding, show, toRate } from './flow'
import { ask, type Identity, lacks, Refused, readRegister, request, Silent } from './identity'
import { attachedAnew, readerOf } from './reading'
import { magicAddress } from './registers'

/** What the line is worth before anything is erased: reads of a word that is known, and rates that hold (brief 06 §4, §6). */

const reads = 200
const mostTimedOut = 2
/** A computer that is busy for a moment is no line that does not hold. */
const triesAfterChange = 8

export interface LineTest {
  reads: number
  wrong: number
  timedOut: number
  holds: boolean
}

/** Reads the magic word again and again: one wrong answer, or more than two that did not come, and the line does not hold. */
export function* testLine(line: Line, who: Identity, count = reads): Flow<LineTest> {
  yield* show('testing')
  const expected = Number(who.magic)
  const before = line.counts.retries
  let wrong = 0
  for (let i = 0; i < count; i++) {
    try {
      if ((yield* readRegister(line, magicAddress)) !== expected) wrong++
    } catch (cause) {
      if (!(cause instanceof Refused)) throw cause
      wrong++
    }
  }
  const timedOut = line.counts.retries - before
  return { reads: count, wrong, timedOut, holds: wrong === 0 && timedOut <= mostTimedOut }
}

/** Rates that adapters know, from the slowest on. */
export const usualRates = [9600, 19_200, 38_400, 57_600, 115_200, 230_400, 460_800, 921_600] as const

/**
 * Asks the chip for another rate, and tests it there. Where it does not hold, both sides are back at the rate before it, or at the
 * first one after a restart; then it returns false. Only for ROMs that can.
 */
export function* changeRate(line: Line, who: Identity, rate: number): Flow<boolean> {
  const { found } = readerOf(line, who)
  if (lacks(found, 'set-rate') || rate === line.rate) return rate === line.rate
  yield* show('rating')
  const before = line.rate
  const answer = yield* ask(line, request('set-rate', rate, 0))
  if (answer.status.failed) return false
  yield* toRate(line, rate)
  // A clock that an oscillator inside made can be some percent off: heard at once, or not at all.
  if ((yield* fence(line, triesAfterChange)) && line.rate === rate && (yield* testLine(line, who)).holds) return true
  if (line.rate === rate) {
    yield* ask(line, request('set-rate', before, 0))
    yield* toRate(line, before)
  }
  yield* fence(line, 20)
  return false
}

/** Leaves the chip at the rate of its first sync, so that whoever calls next is heard; nothing is lost where it does not answer. */
export function* backToFirstRate(line: Line): Flow<void> {
  if (line.rate === line.firstRate) return
  try {
    yield* ask(line, request('set-rate', line.firstRate, 0))
    yield* toRate(line, line.firstRate)
  } catch (cause) {
    if (!(cause instanceof Silent)) throw cause
  }
}

export interface Tested {
  /** Null where the line holds. */
  finding: LinkFinding | null
  holds: boolean
  test: LineTest
}

const noisy = (test: LineTest, holds: boolean, rate: number): LinkFinding => ({
  ...finding(
    'link-noisy',
    holds ? 'watch' : 'error',
    `${test.wrong + test.timedOut} of ${test.reads} exchanges were wrong or did not come.`,
    holds ? `It holds at ${rate}.` : 'A flipped bit in a request erases elsewhere: nothing is erased over such a line.',
    holds
      ? 'Shorten the wires before the next one.'
      : 'Shorten the wires, join the grounds, look at the supply; then begin again.',
  ),
  at: null,
})
const mostTests = 3

/**
 * A line that nothing was found wrong with, at this rate or a lower one. None wrong in 200 still only says fewer than 0.06 % bad
 * bytes with 95 %.
 * @param mayChange whether this side can change its rate
 */
export function* settledLine(line: Line, who: Identity, mayChange: boolean): Flow<Tested> {
  let first: LineTest | null = null
  for (let i = 0; i < mostTests; i++) {
    const test = yield* testLine(line, who)
    if (test.holds) return { finding: first && noisy(first, true, line.rate), holds: true, test }
    first ??= test
    const lower = usualRates.findLast((r) => r < line.rate)
    if (mayChange && lower !== undefined) yield* changeRate(line, who, lower)
  }
  yield* attachedAnew(readerOf(line, who))
  const test = first as LineTest
  return { finding: noisy(test, false, line.rate), holds: false, test }
}
