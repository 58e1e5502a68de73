/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { Find } from './find'

const push = jest.fn()
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }) }))

/** Answers when it is told to, not before. */
let answer: (hits: { href: string; title: string; about: string }[] | null) => Promise<void>
beforeEach(() => {
  jest.useFakeTimers()
  push.mockClear()
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  } as never
  Element.prototype.scrollIntoView = () => {}
  globalThis.fetch = jest.fn(
    () =>
      new Promise((done, fail) => {
        answer = async (hits) =>
          act(async () => {
            if (hits) done({ json: async () => ({ hits }) } as Response)
            else fail(new Error('away'))
          })
      }),
  ) as never
})
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})
const field = () => screen.getByLabelText(/Find a number/)
const type = (text: string) => fireEvent.change(field(), { target: { value: text } })
const wait = () => act(async () => jest.advanceTimersByTime(200))
const unit = (n: number) => ({ href: `/units/${n}`, title: `${n} Lamp`, about: 'stage' })

test('Enter before the answer goes to the first hit of that answer, not to an older one', async () => {
  render(<Find open onOpenChange={() => {}} />)
  await wait()
  await answer([unit(1), unit(17)])
  type('17')
  fireEvent.keyDown(field(), { key: 'Enter' })
  expect(push).not.toHaveBeenCalled()
  await wait()
  await answer([unit(17)])
  expect(push.mock.calls).toEqual([['/units/17']])
})
test('an answer that comes late, for what was typed before, is not shown', async () => {
  render(<Find open onOpenChange={() => {}} />)
  type('1')
  await wait()
  const first = answer
  type('17')
  await wait()
  await answer([unit(17)])
  await first([unit(1)])
  expect(screen.getAllByRole('option').map((o) => o.textContent)).toEqual(['17 Lamp stage'])
})
test('a server that does not answer is said, and asked again with the next letter', async () => {
  render(<Find open onOpenChange={() => {}} />)
  type('x')
  await wait()
  await answer(null)
  expect(screen.getByText(/does not answer/)).toBeTruthy()
  type('xy')
  await wait()
  await answer([])
  expect(screen.getByText('Nothing is called like that.')).toBeTruthy()
})
test('what was typed before the field stood is its text, and Enter among it goes to the first hit', async () => {
  render(<Find open begun={() => '17\n'} onOpenChange={() => {}} />)
  expect((field() as HTMLInputElement).value).toBe('17')
  await wait()
  await answer([unit(17), unit(1)])
  expect(push.mock.calls.at(-1)).toEqual(['/units/17'])
})
test('the keyboard is in the field in the moment in which it stands, behind what was typed before', () => {
  let typedAtFocus: string | null = null
  const keys = { now: '3.3' }
  const entered = (e: FocusEvent) => {
    if (e.target instanceof HTMLInputElement) typedAtFocus ??= keys.now
    keys.now = ''
  }
  window.addEventListener('focusin', entered)
  render(<Find open begun={() => keys.now} onOpenChange={() => {}} />)
  window.removeEventListener('focusin', entered)
  expect(document.activeElement).toBe(field())
  // What was taken is what there was when the keyboard came in: nothing is left over, nothing is lost.
  expect([typedAtFocus, (field() as HTMLInputElement).value]).toEqual(['3.3', '3.3'])
})
