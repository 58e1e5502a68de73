/** @jest-environment jsdom */
import { cleanup, fireEvent, render } from '@testing-library/react'
import { TopBar } from './top-bar'

jest.mock('next/navigation', () => ({ usePathname: () => '/units/7/close', useRouter: () => ({ push: jest.fn() }) }))
// The stand-in browser lacks it; the keys of these tests need no escaping.
globalThis.CSS = { escape: (text: string) => text } as never
afterEach(cleanup)

const shown = () => {
  const pressed = jest.fn()
  render(
    <>
      <TopBar mark="" />
      <button type="button" data-key=" " onClick={pressed}>
        Close up: done
      </button>
    </>,
  )
  return pressed
}

test('space presses the one next action', () => {
  const pressed = shown()
  fireEvent.keyDown(document.body, { key: ' ' })
  expect(pressed).toHaveBeenCalledTimes(1)
})

test('a key that something above the page has taken does not fall through to it', () => {
  const pressed = shown()
  const taken = (e: KeyboardEvent) => e.preventDefault()
  document.body.addEventListener('keydown', taken)
  fireEvent.keyDown(document.body, { key: ' ' })
  document.body.removeEventListener('keydown', taken)
  expect(pressed).not.toHaveBeenCalled()
})
