import fc from 'fast-check'
import { stepIds } from '../unit/way'
import { type Piece, planTime, usualMinutes } from './time-at-hand'

const piece = (number: number, step: Piece['step'], waits = false): Piece => ({ number, step, waits })

describe('what fits into the time at hand', () => {
  test('takes what waits first, then what is furthest on, one piece a unit', () => {
    const plan = planTime([piece(18, 'write'), piece(9, 'backup', true), piece(9, 'check'), piece(22, 'open')], 30)
    expect(plan.pieces.map((p) => [p.number, p.step])).toEqual([
      [9, 'backup'],
      [18, 'write'],
    ])
    expect(plan.minutes).toBe(18)
  })
  test('passes over what is too long, and takes the next that fits', () => {
    expect(planTime([piece(7, 'meter'), piece(24, 'hub')], 10).pieces.map((p) => p.number)).toEqual([24])
  })
  const anyPiece = fc.record({
    number: fc.integer({ min: 1, max: 40 }),
    step: fc.constantFrom(...stepIds),
    waits: fc.boolean(),
  })
  test('never takes longer than there is time, nor two pieces of one unit, and adds up', () => {
    fc.assert(
      fc.property(fc.array(anyPiece, { maxLength: 40 }), fc.integer({ min: 0, max: 300 }), (pieces, minutes) => {
        const plan = planTime(pieces, minutes)
        expect(plan.minutes).toBeLessThanOrEqual(minutes)
        expect(plan.minutes).toBe(plan.pieces.reduce((n, p) => n + usualMinutes[p.step], 0))
        expect(new Set(plan.pieces.map((p) => p.number)).size).toBe(plan.pieces.length)
      }),
    )
  })
})
