import { checksInOrder, dueOf, wattsByOhms } from './trusted'

const check = (on: string) => ({ on, note: '' })

test('a reference is due again after its newest check, in whatever order they were written down', () => {
  const checks = [check('2025-03-31'), check('2026-01-31'), check('2024-02-29')]
  expect(checksInOrder(checks).map((c) => c.on)).toEqual(['2026-01-31', '2025-03-31', '2024-02-29'])
  expect(dueOf(checks, 1)).toBe('2026-02-28')
  expect(dueOf(checks, 12)).toBe('2027-01-31')
})
test('one that was never checked, or of which nobody said how often, has no day: nothing is invented', () => {
  expect(dueOf([], 12)).toBeNull()
  expect(dueOf([check('2026-01-31')], null)).toBeNull()
})
test('a heater is what its resistance says; a lamp’s filament or a motor says nothing cold', () => {
  const heater = wattsByOhms('resistive', 1000, 52.9, 230)
  expect(heater?.watts).toBeCloseTo(1000, 6)
  expect(heater?.agrees).toBe(true)
  expect(wattsByOhms('resistive', 1000, 60, 230)?.agrees).toBe(false)
  expect(wattsByOhms('motor', 1000, 52.9, 230)).toBeNull()
  expect(wattsByOhms('resistive', 1000, 0, 230)).toBeNull()
})
