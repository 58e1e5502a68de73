import fc from 'fast-check'
import { stepIds } from '../unit/way'
import { type Piece, tonight, usualMinutes } from './time-at-hand'

const piece = (number: number, step: Piece['step'], waits = false): Piece => ({ number, step, waits })

describe('with an hour tonight', () => {
  test('what waits comes before what only goes on, one piece a unit, tools set up once', () => {
    const plan = tonight([piece(18, 'write'), piece(9, 'backup', true), piece(9, 'check'), piece(22, 'wire')], 40)
    expect(plan.tasks.map((p) => [p.number, p.step, p.setupMin])).toEqual([
      [9, 'backup', 3],
      [18, 'write', 0],
      [22, 'wire', 0],
    ])
    expect(plan.left).toBe(0)
  })
  test('passes over what is too long, and says how much is left', () => {
    const plan = tonight([piece(7, 'meter'), piece(24, 'hub')], 10)
    expect([plan.tasks.map((p) => p.number), plan.left, plan.exact]).toEqual([[24], 1, true])
  })
  test('with no time, or nothing to do, there is no plan', () => {
    expect(tonight([piece(7, 'hub')], 0)).toMatchObject({ tasks: [], left: 1 })
    expect(tonight([], 60)).toMatchObject({ tasks: [], left: 0, endMin: 0 })
  })
  const anyPiece = fc.record({
    number: fc.integer({ min: 1, max: 40 }),
    step: fc.constantFrom(...stepIds),
    waits: fc.boolean(),
  })
  test('never takes longer than there is time, nor two pieces of one unit; what is done and what is left is all of it', () => {
    fc.assert(
      fc.property(fc.array(anyPiece, { maxLength: 30 }), fc.integer({ min: 0, max: 300 }), (pieces, minutes) => {
        const { tasks, left, endMin } = tonight(pieces, minutes)
        expect(endMin).toBeLessThanOrEqual(minutes + 1e-9)
        for (const t of tasks) expect(t.end - t.start).toBeCloseTo(t.setupMin + usualMinutes[t.step], 9)
        const units = tasks.map((t) => t.number)
        expect(new Set(units).size).toBe(units.length)
        expect(tasks.length + left).toBe(new Set(pieces.map((p) => p.number)).size)
      }),
    )
  })
})
