/** @jest-environment jsdom */
import { ahead } from './fetch-ahead'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

test('what opens on a press is fetched soon after the page, asked for again where it did not come, and then no more', async () => {
  let away = true
  const drawer = jest.fn(async () => {
    if (away) throw new Error('the line is cut')
  })
  const words = jest.fn(async () => {})
  expect(ahead(drawer)).toBe(drawer)
  ahead(words)
  expect(drawer).not.toHaveBeenCalled()
  await jest.advanceTimersByTimeAsync(1500)
  expect([drawer.mock.calls.length, words.mock.calls.length]).toEqual([1, 1])
  away = false
  await jest.advanceTimersByTimeAsync(60_000)
  expect([drawer.mock.calls.length, words.mock.calls.length]).toEqual([2, 1])
  // A page that comes later brings more.
  const later = jest.fn(async () => {})
  ahead(later)
  await jest.advanceTimersByTimeAsync(1500)
  expect(later).toHaveBeenCalledTimes(1)
})
