/** @jest-environment jsdom */
import { act, cleanup, render } from '@testing-library/react'
import { useRules } from './use-rules'

let fails = 2
jest.mock('./rules', () => {
  if (fails-- > 0) throw new Error('the server is away')
  return { judge: () => 'judged here' }
})
beforeEach(() => jest.useFakeTimers())
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

function Probe() {
  const rules = useRules()
  return <output>{rules ? String(rules.judge({} as never, 'wire')) : 'as the server judged it'}</output>
}

test('the rules of the steps follow after the page, are asked for again while the server is away, and stay for the visit', async () => {
  const first = render(<Probe />)
  expect(first.container.textContent).toBe('as the server judged it')
  await act(() => jest.advanceTimersByTimeAsync(3000))
  expect(first.container.textContent).toBe('as the server judged it')
  await act(() => jest.advanceTimersByTimeAsync(3000))
  expect(first.container.textContent).toBe('judged here')
  expect(render(<Probe />).container.textContent).toBe('judged here')
})
