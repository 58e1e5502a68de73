import { askedAndAnswered } from './answered'
import type { Happening } from './standing'

const asked = (at: number, value = true, field = 'channel/1/on'): Happening => ({ at, kind: 'asked', field, value })
const state = (at: number, value = true, field = 'channel/1/on'): Happening => ({
  at,
  kind: 'state',
  field,
  value,
  was: !value,
})

describe('what was asked of a unit and answered', () => {
  test('is the state of the same channel that follows, with the time it took', () =>
    expect(askedAndAnswered([state(1180), asked(1000)])).toEqual([
      { field: 'channel/1/on', value: true, askedAt: 1000, afterMs: 180 },
    ]))
  test.each<[string, Happening[], number[]]>([
    ['another channel', [asked(0), state(100, true, 'channel/2/on')], []],
    ['another value', [asked(0), state(100, false)], []],
    ['a state before it', [asked(500), state(100)], []],
    ['a state far later', [asked(0), state(10_001)], []],
    ['nothing', [asked(0)], []],
    ['the app itself that asked', [asked(1000), state(1200)], [400]],
  ])('%s is no answer to a hub', (_, happenings, own) => expect(askedAndAnswered(happenings, own)).toEqual([]))
  test('of two askings each finds its own, the newest first', () =>
    expect(
      askedAndAnswered([asked(0), state(150), asked(5000, false), state(5300, false)]).map((a) => [a.value, a.afterMs]),
    ).toEqual([
      [false, 300],
      [true, 150],
    ]))
})
