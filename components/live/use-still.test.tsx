/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useStill } from './use-still'

const pressed = jest.fn()
function List({ rows }: { rows: readonly string[] }) {
  const { shown, hold } = useStill(rows)
  return (
    <ul aria-label="List" {...hold}>
      {shown.map((r) => (
        <li key={r}>
          <button type="button" onClick={() => pressed(r)}>
            {r}
          </button>
        </li>
      ))}
    </ul>
  )
}
beforeEach(() => {
  jest.useFakeTimers()
  pressed.mockClear()
})
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})
const list = () => screen.getByRole('list')
const rows = () => screen.getAllByRole('button').map((b) => b.textContent)

test('what one is about to press stays under the hand while news come; pressed, they are let in', () => {
  const { rerender } = render(<List rows={['one']} />)
  fireEvent.pointerEnter(list())
  fireEvent.pointerDown(screen.getByText('one'))
  rerender(<List rows={['two', 'one']} />)
  expect(rows()).toEqual(['one'])
  fireEvent.click(screen.getAllByRole('button')[0] as HTMLElement)
  expect(pressed.mock.calls).toEqual([['one']])
  expect(rows()).toEqual(['two', 'one'])
})
test('a hand that rests, or leaves, does not keep news away; one that moves does', () => {
  const { rerender } = render(<List rows={['one']} />)
  fireEvent.pointerEnter(list())
  rerender(<List rows={['two']} />)
  act(() => jest.advanceTimersByTime(2000))
  fireEvent.pointerMove(list())
  act(() => jest.advanceTimersByTime(2000))
  expect(rows()).toEqual(['one'])
  act(() => jest.advanceTimersByTime(600))
  expect(rows()).toEqual(['two'])
  fireEvent.pointerEnter(list())
  rerender(<List rows={['three']} />)
  expect(rows()).toEqual(['two'])
  fireEvent.pointerLeave(list())
  expect(rows()).toEqual(['three'])
})
