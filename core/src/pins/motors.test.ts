import { checkTemplate } from './check'
import { type Motor, motorsWith, swapped } from './motors'
import type { PinTemplate } from './template'

const board = (motors: Motor[]): PinTemplate => ({
  format: 'fresh-coat/pin-template',
  version: 1,
  board: 'Quoinsby Q4',
  family: 'LX6',
  pins: [16, 17, 18, 19].map((n, i) => ({ pin: `GPIO${n}`, fn: 'relay' as const, ch: i + 1, start: 'off' as const })),
  motors,
})
const ofMotors = (template: PinTemplate) =>
  checkTemplate(template)
    .findings.map((f) => f.code)
    .filter((c) => ['T22', 'T23', 'T24'].includes(c))

test('pairs are offered in order until none is left, and what is offered passes the checks of a motor', () => {
  const motors: Motor[] = []
  for (let next = motorsWith(motors, [1, 2, 3, 4]); next; next = motorsWith(motors, [1, 2, 3, 4])) motors.push(next)
  expect(motors.map((m) => [m.open, m.close])).toEqual([
    [1, 2],
    [3, 4],
  ])
  expect(ofMotors(board(motors))).toEqual([])
  expect(motorsWith([], [7])).toBeNull()
})

test('swapping twice is no swap, and it takes no interlock away', () => {
  const motor = { open: 1, close: 2, interlock: true, deadMs: 700 }
  expect(swapped(motor)).toEqual({ open: 2, close: 1, interlock: true, deadMs: 700 })
  expect(swapped(swapped(motor))).toEqual(motor)
})
