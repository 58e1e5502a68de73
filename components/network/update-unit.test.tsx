/** @jest-environment jsdom */
import type { HowItWent } from '@fresh-coat/core/fleet/campaign'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { UpdateUnit } from './update-unit'

afterEach(cleanup)
const now = Date.parse('2026-12-01T20:00:00Z')
let bodies: { name: string; body: Record<string, unknown> }[] = []
let answers: { status: number; body: object }[] = []
const done = jest.fn()
beforeEach(() => {
  bodies = []
  answers = []
  done.mockClear()
  global.fetch = jest.fn(async (path: string, init: RequestInit) => {
    bodies.push({ name: path.split('/').at(-1) as string, body: JSON.parse(String(init.body)) })
    const { status, body } = answers.shift() ?? { status: 200, body: { ok: true, value: {} } }
    return { status, json: async () => body }
  }) as never
})
const see = (how: HowItWent, why = '') =>
  render(
    <UpdateUnit
      unit={{ id: 'u7', number: 7, installed: '9.4.0', start: now + 3_600_000, how, why }}
      name="Glue pot"
      now={now}
      done={done}
    />,
  )
const press = (name: string) =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
const off = (name: string) => (screen.getByRole('button', { name }) as HTMLButtonElement).disabled

test('out of its turn it cannot begin, and the reason stands beside it', () => {
  see({ state: 'waiting' }, 'The ring Trial comes first.')
  expect(off('Its update begins now')).toBe(true)
  expect(screen.getByText('The ring Trial comes first.')).toBeTruthy()
})
test('a heater asks whether its load is off before it begins', async () => {
  answers = [
    {
      status: 409,
      body: { ok: false, error: { code: 'not-sure', message: 'A heater may drop.', kept: '', next: '' } },
    },
  ]
  see({ state: 'waiting' })
  await press('Its update begins now')
  expect(done).not.toHaveBeenCalled()
  expect(screen.getByRole('alertdialog').textContent).toMatch(/A heater may drop/)
  await press('Its load is off, or somebody is there: it begins')
  expect(bodies.map((b) => b.body)).toEqual([{ unitId: 'u7' }, { unitId: 'u7', sure: true }])
  expect(done).toHaveBeenCalledTimes(1)
})
test('that it failed is said with what was seen; that it went well needs no words', async () => {
  see({ state: 'look' })
  expect(off('It failed')).toBe(true)
  fireEvent.change(screen.getByLabelText('What you saw'), { target: { value: 'its relay clicks by itself' } })
  await press('It failed')
  expect(bodies).toEqual([
    { name: 'say-update', body: { unitId: 'u7', ok: false, note: 'its relay clicks by itself' } },
  ])
})
test('one that went well is not begun again; one that failed can be', () => {
  see({ state: 'ok', why: 'heard with 9.5.0', by: 'air' })
  expect(screen.queryByRole('button', { name: /begins/ })).toBeNull()
  cleanup()
  see({ state: 'failed', why: 'not back within five minutes', by: 'air' })
  expect(off('It begins once more')).toBe(false)
  expect(screen.getByText(/failed: not back within five minutes/)).toBeTruthy()
})
test('a server that is away leaves it not begun, and says so', async () => {
  global.fetch = jest.fn(async () => {
    throw new TypeError('network')
  }) as never
  see({ state: 'waiting' })
  await press('Its update begins now')
  expect(done).not.toHaveBeenCalled()
  expect(screen.getByRole('alert').textContent).toMatch(/does not answer/)
})
test.each([
  [now + 5 * 60_000 + 40_000, 5],
  [now + 4 * 60_000 + 1, 5],
  [now + 60_000, 1],
  [now - 1, 0],
])('one that has until %i has %i minutes, also where the clock of the page is behind the press', (until, minutes) => {
  see({ state: 'begun', until })
  expect(screen.getByText(new RegExp(`begun; it has ${minutes} min to come back`))).toBeTruthy()
})
