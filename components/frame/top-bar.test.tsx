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

/** What a drawer is until the keyboard is in it, and then. */
function dialog() {
  const view = document.createElement('div')
  view.setAttribute('role', 'dialog')
  view.innerHTML = '<input aria-label="Field" />'
  document.body.append(view)
  return { field: view.querySelector('input') as HTMLInputElement, close: () => view.remove() }
}
test('a key between the standing of what it opened and the keyboard’s coming into it falls neither on the page nor beside it', () => {
  const opened = jest.fn()
  render(
    <>
      <TopBar mark="" />
      <button type="button" data-key="k" data-opens="drawer" onClick={opened}>
        What’s known
      </button>
    </>,
  )
  const key = (k: string) => fireEvent.keyDown(document.body, { key: k })
  // Opens on k; what is pressed while it comes, and while it stands without the keyboard, is taken.
  key('k')
  expect(key(' ')).toBe(false)
  const { field, close } = dialog()
  expect(key('x')).toBe(false)
  field.focus()
  // From here on keys are the drawer's.
  expect(key('x')).toBe(true)
  close()
  expect(key('k')).toBe(false)
  expect(opened).toHaveBeenCalledTimes(2)
})
