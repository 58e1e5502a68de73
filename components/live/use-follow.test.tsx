/** @jest-environment jsdom */
import { cleanup, renderHook } from '@testing-library/react'
import { useFollow, useUntil } from './use-follow'

beforeEach(() => jest.useFakeTimers())
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

describe('following what is heard', () => {
  test('a page that has just come is not asked for again until its pace has passed', () => {
    const refresh = jest.fn()
    const { result } = renderHook(() => useFollow(refresh, 5000))
    result.current()
    jest.advanceTimersByTime(4999)
    expect(refresh).not.toHaveBeenCalled()
    jest.advanceTimersByTime(1)
    expect(refresh).toHaveBeenCalledTimes(1)
  })
  test('a hundred messages ask once, and the last of them is never forgotten', () => {
    const refresh = jest.fn()
    const { result } = renderHook(() => useFollow(refresh, 5000))
    jest.advanceTimersByTime(60_000)
    for (let i = 0; i < 100; i++) {
      result.current()
      jest.advanceTimersByTime(10)
    }
    expect(refresh).toHaveBeenCalledTimes(1)
    jest.advanceTimersByTime(5000)
    expect(refresh).toHaveBeenCalledTimes(2)
    jest.advanceTimersByTime(60_000)
    expect(refresh).toHaveBeenCalledTimes(2)
  })
  test('a page that is left asks for nothing any more', () => {
    const refresh = jest.fn()
    const { result, unmount } = renderHook(() => useFollow(refresh, 5000))
    result.current()
    unmount()
    jest.advanceTimersByTime(60_000)
    expect(refresh).not.toHaveBeenCalled()
  })
})

describe('what the clock alone changes', () => {
  test('is asked for when its moment is over, once', () => {
    const refresh = jest.fn()
    renderHook(() => useUntil(refresh, Date.now() + 60_000))
    jest.advanceTimersByTime(60_000)
    expect(refresh).not.toHaveBeenCalled()
    jest.advanceTimersByTime(600_000)
    expect(refresh).toHaveBeenCalledTimes(1)
  })
  test('a moment beyond what a timer can count is not now', () => {
    const refresh = jest.fn()
    renderHook(() => useUntil(refresh, Date.now() + 1e12))
    jest.advanceTimersByTime(86_400_000)
    expect(refresh).not.toHaveBeenCalled()
  })
  test('of what never changes nothing is asked', () => {
    const refresh = jest.fn()
    renderHook(() => useUntil(refresh, null))
    jest.advanceTimersByTime(1e10)
    expect(refresh).not.toHaveBeenCalled()
  })
})
