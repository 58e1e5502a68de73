/** @jest-environment jsdom */
import { unit } from '@fresh-coat/core/testing/a-unit'
import { cleanup, fireEvent, render, screen, act as settle } from '@testing-library/react'
import { NameAndPlace } from './name-and-place'

beforeEach(() => {
  jest.useFakeTimers()
})
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})
const pass = (ms: number) => settle(async () => jest.advanceTimersByTimeAsync(ms))
const named = (name: string, place = '', version = 1) => unit({}, { name, place, version })
const type = (text: string) => fireEvent.change(screen.getByLabelText('Name'), { target: { value: text } })
const shown = () => (screen.getByLabelText('Name') as HTMLInputElement).value

test('is saved after a pause, once, over the version on screen', async () => {
  const act = jest.fn(async () => true)
  const { rerender } = render(<NameAndPlace view={named('Lamp')} act={act} />)
  type('Lamp l')
  await pass(300)
  type('Lamp left')
  await pass(800)
  expect(act.mock.calls).toEqual([['edit-unit', { unitId: 'u1', version: 1, name: 'Lamp left', place: '' }]])
  rerender(<NameAndPlace view={named('Lamp left', '', 2)} act={act} />)
  await pass(5000)
  expect(act).toHaveBeenCalledTimes(1)
})
test('is tried again while the server is away, and what is typed outlives a new version', async () => {
  const act = jest.fn(async () => false)
  const { rerender } = render(<NameAndPlace view={named('Lamp')} act={act} />)
  type('Lamp left')
  await pass(800)
  rerender(<NameAndPlace view={named('Lamp', '', 2)} act={act} />)
  expect(shown()).toBe('Lamp left')
  act.mockResolvedValue(true)
  await pass(3500)
  expect(act).toHaveBeenLastCalledWith('edit-unit', { unitId: 'u1', version: 2, name: 'Lamp left', place: '' })
})
test('undone, is shown as it was and not saved over again', async () => {
  const act = jest.fn(async () => true)
  const { rerender } = render(<NameAndPlace view={named('Lamp')} act={act} />)
  type('Lamp left')
  await pass(800)
  rerender(<NameAndPlace view={named('Lamp left', '', 2)} act={act} />)
  rerender(<NameAndPlace view={named('Lamp', '', 3)} act={act} />)
  await pass(5000)
  expect([shown(), act.mock.calls.length]).toEqual(['Lamp', 1])
})
test('an empty name is not sent, and said', async () => {
  const act = jest.fn(async () => true)
  render(<NameAndPlace view={named('Lamp')} act={act} />)
  type('  ')
  await pass(5000)
  expect(act).not.toHaveBeenCalled()
  expect(screen.getByText(/the last one is kept/)).toBeTruthy()
})
test('leaving in mid-pause saves', async () => {
  const act = jest.fn(async () => true)
  const { unmount } = render(<NameAndPlace view={named('Lamp')} act={act} />)
  type('Lamp left')
  unmount()
  expect(act).toHaveBeenCalledTimes(1)
})
