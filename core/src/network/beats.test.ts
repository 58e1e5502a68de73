import fc from 'fast-check'
import { judgeHold, judgePresses, settleS } from './beats'

const four = { by: 'presses' as const, presses: 4, withinS: 3, light: '' }
const hold = { by: 'hold' as const, holdS: 6, wipesAfterS: 20, light: '' }

describe('presses counted along', () => {
  test.each<[string, number[], number, string]>([
    ['nothing yet', [], 5, 'idle'],
    ['three in time', [0, 0.5, 1], 1.2, 'counting'],
    ['four in time: no more now', [0, 0.5, 1, 1.5], 1.6, 'wait'],
    ['four and rest', [0, 0.5, 1, 1.5], 1.5 + settleS, 'right'],
    ['five in time', [0, 0.5, 1, 1.5, 2], 2, 'over'],
    ['one more after it was enough', [0, 0.5, 1, 1.5, 3.2], 3.2, 'over'],
    ['three, and the time is over', [0, 0.5, 1], 3.1, 'slow'],
    ['four, but the last too late', [0, 1, 2, 3.4], 3.4, 'slow'],
  ])('%s', (_, times, now, state) => expect(judgePresses(times, now, four).state).toBe(state))
  test('it is right only with exactly as many presses in the time, and rest after them', () => {
    const gaps = fc.array(fc.double({ min: 0.05, max: 2, noNaN: true }), { maxLength: 8 })
    fc.assert(
      fc.property(gaps, fc.double({ min: 0, max: 6, noNaN: true }), (steps, after) => {
        let t = 0
        const times = steps.map((gap) => {
          t += gap
          return t
        })
        const { state } = judgePresses(times, t + after, four)
        const span = (times.at(-1) ?? 0) - (times[0] ?? 0)
        expect(state === 'right').toBe(times.length === 4 && span <= 3 && t + after - t >= settleS)
      }),
    )
  })
})

describe('a button held along', () => {
  test.each<[number | null, number | null, number, string]>([
    [null, null, 9, 'idle'],
    [0, null, 3, 'holding'],
    [0, null, 7, 'let-go'],
    [0, null, 14, 'danger'],
    [0, null, 20, 'wiped'],
    [0, 5, 9, 'short'],
    [0, 6, 9, 'right'],
    [0, 19.9, 30, 'right'],
    [0, 20, 30, 'wiped'],
  ])('pressed at %s, let go at %s, now %s: %s', (from, to, now, state) =>
    expect(judgeHold(from, to, now, hold).state).toBe(state),
  )
  test('one that forgets nothing is never in danger', () =>
    expect(judgeHold(0, null, 300, { ...hold, wipesAfterS: null }).state).toBe('let-go'))
})
