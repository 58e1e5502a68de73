/** @jest-environment jsdom */
import { cleanup, createEvent, fireEvent, render, screen } from '@testing-library/react'
import Link from '@/components/link'
import { FollowLinks } from './follow-links'

const push = jest.fn()
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }) }))
afterEach(() => {
  cleanup()
  jest.clearAllMocks()
})
/** Presses the link; true when the browser was left to follow it by itself. */
function press(name: string, how: object = {}): boolean {
  const click = createEvent.click(screen.getByText(name), { button: 0, ...how })
  // jsdom goes nowhere, and says so aloud: the last to hear it keeps it quiet.
  const quiet = (e: Event) => {
    left = !e.defaultPrevented
    e.preventDefault()
  }
  let left = false
  window.addEventListener('click', quiet)
  fireEvent(screen.getByText(name), click)
  window.removeEventListener('click', quiet)
  return left
}
const see = (link: React.ReactNode) =>
  render(
    <>
      <FollowLinks />
      {link}
    </>,
  )

test('a plain press on a link of the app is followed without a page load, with its search and place', () => {
  see(<Link href="/units?coat=ended#rows">units</Link>)
  expect(press('units')).toBe(false)
  expect(push.mock.calls).toEqual([['/units?coat=ended#rows']])
})
test('a press on what stands inside the link is one on the link, in a drawing too', () => {
  see(
    <>
      <Link href="/units/7">
        <strong>seven</strong>
      </Link>
      <svg role="img" aria-label="x">
        <a href="/units/8">
          <text>eight</text>
        </a>
      </svg>
    </>,
  )
  press('seven')
  press('eight')
  expect(push.mock.calls).toEqual([['/units/7'], ['/units/8']])
})
test.each([
  ['with a key for a new tab', { ctrlKey: true }],
  ['with the command key', { metaKey: true }],
  ['with shift', { shiftKey: true }],
  ['with the middle button', { button: 1 }],
])('%s the browser follows it by itself', (_, how) => {
  see(<Link href="/units">units</Link>)
  expect(press('units', how)).toBe(true)
  expect(push).not.toHaveBeenCalled()
})
test.each([
  [
    'a file',
    <Link key="a" href="/api/export/units" download>
      go
    </Link>,
  ],
  [
    'an address of the app that is no page',
    <Link key="a" href="/api/export/units">
      go
    </Link>,
  ],
  [
    'another window',
    <Link key="a" href="/labels" target="_blank">
      go
    </Link>,
  ],
  [
    'another place on this page',
    <Link key="a" href="#air">
      go
    </Link>,
  ],
  [
    'somewhere else',
    <Link key="a" href="http://192.168.71.44/">
      go
    </Link>,
  ],
])('%s is left to the browser', (_, link) => {
  see(link)
  expect(press('go')).toBe(true)
  expect(push).not.toHaveBeenCalled()
})
test('whoever took the press keeps it', () => {
  see(
    <Link href="/units" onClick={(e) => e.preventDefault()}>
      units
    </Link>,
  )
  press('units')
  expect(push).not.toHaveBeenCalled()
})
