import fc from 'fast-check'
import { nextPoint, type TakenPoint } from './next-point'

const load = (watts: number) => ({ id: String(watts), name: `${watts} W`, watts })
const yard = [60, 120, 500, 1000, 1920].map(load)
const point = (reference: number, role: TakenPoint['role'] = 'fit'): TakenPoint => ({
  id: String(reference),
  indicated: reference * 0.96,
  reference,
  role,
})

/** Somebody who takes what is asked for until it is enough. */
function taken(loads: readonly { id: string; name: string; watts: number }[], quantity: 'P' | 'I' = 'P'): string[] {
  const points: TakenPoint[] = []
  const asked: string[] = []
  let zeros = 0
  for (let i = 0; i < 40; i++) {
    const next = nextPoint(quantity, points, zeros, loads)
    asked.push(next.kind)
    if (next.kind === 'enough') return asked
    if (next.kind === 'zeros') zeros++
    else if (next.kind === 'repeat') points.push(point(next.reference * 1.001))
    // What nobody has on hand is found elsewhere, and is like none of theirs.
    else points.push(point(next.load?.watts ?? 4000 * 1.1 ** i, next.kind === 'verify' ? 'verify' : 'fit'))
  }
  throw new Error('it never ends')
}

test('loads are spread, the last of them is kept to verify, the first is read again, then five zeros', () => {
  expect(taken(yard)).toEqual([
    'spread',
    'spread',
    'spread',
    'spread',
    'verify',
    'repeat',
    'zeros',
    'zeros',
    'zeros',
    'zeros',
    'zeros',
    'enough',
  ])
})
test('whatever loads there are, it comes to an end with three spread, one to verify, one again and five zeros', () =>
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 5, max: 3000 }), { maxLength: 8 }),
      fc.constantFrom('P' as const, 'I' as const),
      (watts, quantity) => {
        const asked = taken(watts.map(load), quantity)
        const count = (kind: string) => asked.filter((k) => k === kind).length
        expect([count('verify'), count('repeat'), count('zeros')]).toEqual([1, 1, 5])
        expect(count('spread')).toBeGreaterThanOrEqual(3)
      },
    ),
  ))
test('a voltage has one point and one to verify: nothing else can be taken at an outlet', () => {
  expect(nextPoint('V', [], 0, yard).kind).toBe('spread')
  expect(nextPoint('V', [point(231)], 0, yard).kind).toBe('verify')
  expect(nextPoint('V', [point(231), point(229, 'verify')], 0, yard).kind).toBe('enough')
})
test('a point that is half typed is none', () =>
  expect(nextPoint('P', [{ ...point(60), indicated: null }], 0, yard)).toEqual({ kind: 'spread', load: yard[0] }))
