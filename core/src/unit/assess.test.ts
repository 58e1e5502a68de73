import { unit } from '../testing/a-unit'
import { assess } from './assess'
import { coatSpan, painted } from './coats'
import { coats, routeIds } from './way'

test('the coats follow one another along the whole way, without a gap', () => {
  let at = 0
  for (const { id } of coats) {
    const { from, to } = coatSpan(id)
    expect(from).toBeCloseTo(at, 12)
    expect(to).toBeGreaterThan(from)
    at = to
  }
  expect(at).toBeCloseTo(1, 12)
})

test('nothing done is nothing painted, all of it is the whole way', () => {
  const none = coats.map((c) => ({ id: c.id, name: c.name, done: 0, of: 3, active: false }))
  expect(painted(none)).toBe(0)
  expect(painted(none.map((c) => ({ ...c, done: 3 })))).toBeCloseTo(1, 12)
})

test('a coat of which a route asks nothing counts as painted', () => {
  const skipped = coats.map((c) => ({ id: c.id, name: c.name, done: 0, of: c.id === 'prime' ? 0 : 3, active: false }))
  const { from, to } = coatSpan('prime')
  expect(painted(skipped)).toBeCloseTo(to - from, 12)
})

test('on every route the next step is one of its own, and what is done never goes backwards', () => {
  for (const route of routeIds) {
    const { next, steps } = assess(unit({ arrive: { route } }, { route }))
    expect(steps.find((s) => s.id === next)?.state).not.toBe('skipped')
  }
})
