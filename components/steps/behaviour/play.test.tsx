/** @jest-environment jsdom */

import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { Play } from './play'

beforeEach(() => jest.useFakeTimers())
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})
const wait = (ms: number) => act(() => void jest.advanceTimersByTime(ms))

test('what is held is down as long as it is held, and let go where it stops', () => {
  const done = jest.fn()
  render(<Play inputs={['button', 'motion']} done={done} />)
  fireEvent.click(screen.getByRole('button', { name: 'Play the inputs yourself' }))
  wait(1000)
  fireEvent.pointerDown(screen.getByRole('button', { name: 'button' }))
  wait(250)
  fireEvent.pointerUp(screen.getByRole('button', { name: 'button' }))
  wait(500)
  fireEvent.keyDown(screen.getByRole('button', { name: 'motion' }), { key: ' ' })
  fireEvent.keyDown(screen.getByRole('button', { name: 'motion' }), { key: ' ' })
  wait(300)
  fireEvent.click(screen.getByRole('button', { name: /^Stop at/ }))
  const [timeline, until] = done.mock.calls[0]
  expect(timeline).toEqual([
    { t: 1000, input: 'button', level: 1 },
    { t: 1250, input: 'button', level: 0 },
    { t: 1750, input: 'motion', level: 1 },
    { t: 2050, input: 'motion', level: 0 },
  ])
  expect(until).toBe(12_050)
})

test('it ends by itself, and begins anew with nothing', () => {
  const done = jest.fn()
  render(<Play inputs={['button']} done={done} />)
  fireEvent.click(screen.getByRole('button', { name: 'Play the inputs yourself' }))
  wait(6 * 60_000)
  expect(done).toHaveBeenCalledTimes(1)
  expect(done.mock.calls[0][0]).toEqual([])
  expect(screen.getByRole('button', { name: 'Play the inputs yourself' })).toBeTruthy()
})
