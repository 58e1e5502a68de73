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

test('what a page brings while others are on their way comes right after them, also where one of those failed', async () => {
  const brought = jest.fn(async () => {})
  const slow = jest.fn(async () => {
    await new Promise((done) => setTimeout(done, 200))
    ahead(brought)
  })
  const broken = jest.fn(async () => {
    throw new Error('the line is cut')
  })
  ahead(broken)
  ahead(slow)
  await jest.advanceTimersByTimeAsync(1300)
  expect([broken.mock.calls.length, slow.mock.calls.length, brought.mock.calls.length]).toEqual([1, 1, 1])
  await jest.advanceTimersByTimeAsync(5000)
  expect([broken.mock.calls.length, brought.mock.calls.length]).toEqual([2, 1])
})
