import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import { handMoves, railFallsMs, rehearse } from './rehearse'
import examples from './rehearse.examples.json'

const moves = (text: string) =>
  text.split(' ').map((word) => {
    const [t, move] = word.split(':')
    return { t: Number(t), do: move }
  })
const run = (text: string, more: object = {}) =>
  computed(rehearse({ family: 'LX106', events: text === '' ? [] : moves(text), ...more }))

describe('the hand sequence', () => {
  test.each(examples)('worked example %#', ({ in: input, out }) => expectLike(computed(rehearse(input)), out))

  test('strap held after it was read: late', () =>
    expect(run('0:power_on 300:strap_low')).toMatchObject({ end: 'app', mistakes: ['strap_late'] }))
  test('strap that moves just before it is read counts as the normal start', () =>
    expect(run('0:power_on 8:strap_low 900:strap_high')).toMatchObject({ end: 'app', mistakes: ['strap_bounce'] }))
  test('5 ms before is early enough', () => expect(run('0:power_on 7:strap_low').end).toBe('download'))
  test('reset while powered starts it again', () =>
    expect(run('0:power_on 500:strap_low 600:reset_low 700:reset_high')).toMatchObject({
      boots: [
        { t: 10, mode: 'app' },
        { t: 700, mode: 'download' },
      ],
      mistakes: [],
      score: 100,
    }))
  test('reset held through power-up: it starts when that is let go', () =>
    expect(run('0:reset_low 10:strap_low 100:power_on 500:reset_high').boots).toEqual([{ t: 500, mode: 'download' }]))
  test('never started', () => expect(run('0:strap_low')).toMatchObject({ end: 'none', mistakes: ['no_reset'] }))
  test('power gone before it began to start', () => expect(run('0:power_on 5:power_off').boots).toEqual([]))
  test('the way back: BOOT left held', () => {
    expect(run('0:strap_low 100:power_on', { goal: 'app' })).toMatchObject({
      mistakes: ['strap_left'],
      end: 'download',
    })
    expect(run('0:power_on 300:strap_low', { goal: 'app' })).toMatchObject({ mistakes: [], end: 'app', score: 100 })
  })
  test('the rail needs about 213 ms', () => expect(railFallsMs(150)).toBeCloseTo(212.6, 1))
  test('calls that stop before the start miss the window', () =>
    expect(run('0:call_start 500:call_stop 600:power_on', { family: 'ARM968-A' })).toMatchObject({
      end: 'app',
      mistakes: ['window_missed'],
    }))
  test('calls before power hit it, strap or not', () => {
    expect(run('0:call_start 600:power_on', { family: 'CM3' }).end).toBe('download')
    expect(run('0:strap_low 600:power_on', { family: 'CM3' }).end).toBe('app')
  })

  test('whatever hands do, the score stays between 0 and 100 and a clean download needs no mistake', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('LX106', 'RV32', 'ARM968-B', 'CM3'),
        fc.array(fc.tuple(fc.nat(500), fc.constantFrom(...handMoves)), { maxLength: 20 }),
        fc.constantFrom('download', 'app'),
        (family, steps, goal) => {
          let t = 0
          const events = steps.map(([dt, move]) => {
            t += dt
            return { t, do: move }
          })
          const found = computed(rehearse({ family, events, goal }))
          expect(found.score).toBeGreaterThanOrEqual(0)
          expect(found.score).toBeLessThanOrEqual(100)
          expect(found.end).toBe(found.boots.at(-1)?.mode ?? 'none')
          if (found.score === 100) expect(found.mistakes.filter((m) => m !== 'strap_bounce')).toEqual([])
          for (let i = 1; i < found.boots.length; i++)
            expect(found.boots[i]?.t).toBeGreaterThanOrEqual(found.boots[i - 1]?.t as number)
        },
      ),
    ))
})

describe('bad input', () => {
  test.each([
    [
      {
        family: 'LX106',
        events: [
          { t: 0, do: 'power_on' },
          { t: 1, do: 'shake' },
        ],
      },
      'unknown-event',
      '/events/1/do',
    ],
    [{ family: 'OTHER', events: [] }, 'unknown-family', '/family'],
    [
      {
        family: 'LX106',
        events: [
          { t: 5, do: 'power_on' },
          { t: 1, do: 'power_off' },
        ],
      },
      'range',
      '/events/1/t',
    ],
    [{ family: 'LX106', events: [], railTauMs: 0 }, 'range', '/railTauMs'],
    [{ family: 'LX106' }, 'missing', '/events'],
    [{ family: 'LX106', events: [], goal: 'dance' }, 'type', '/goal'],
  ])('%#', (input, code, path) => expect(refusalOf(rehearse(input))).toEqual([code, path]))
})
