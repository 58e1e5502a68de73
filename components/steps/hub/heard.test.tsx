/** @jest-environment jsdom */
import type { Happening } from '@fresh-coat/core/live/standing'
import type { HubTest } from '@fresh-coat/core/unit/view'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { Heard } from './heard'

const now = Date.parse('2026-05-12T19:46:30Z')
let happenings: Happening[] = []
let wishes: { sentAt: number | null }[] = []
let listening = true
jest.mock('@/components/live/unit-air', () => ({
  useUnitOnAir: () => ({ data: { listening, wishes, happenings }, line: 'open' }),
}))
jest.mock('@/components/live/use-air', () => ({
  ...jest.requireActual('@/components/live/use-air'),
  useNow: () => now,
}))

const state = (channel: number, secondsAgo: number, value = true): Happening => ({
  at: now - secondsAgo * 1000,
  kind: 'state',
  field: `switch/${channel}`,
  value,
})
const use = jest.fn()
const show = (kind: HubTest['direction'], channel: number | null) =>
  render(<Heard number={24} kind={kind} channel={channel} use={use} />)
const lines = () => screen.getAllByRole('listitem').map((li) => li.textContent?.replace(/Use it$/, ''))

afterEach(() => {
  cleanup()
  use.mockClear()
  happenings = []
  wishes = []
  listening = true
})

test('what the asked channel did stands first, and is not pushed out by what others do meanwhile', () => {
  happenings = [state(3, 1, false), state(2, 2), state(4, 3), state(3, 4), state(1, 40)]
  show('hub to unit', 1)
  expect(lines()[0]).toMatch(/channel 1 went on$/)
  expect(lines()).toHaveLength(3)
  fireEvent.click(screen.getAllByRole('button', { name: 'Use it' })[0] as HTMLElement)
  expect(use).toHaveBeenCalledWith(expect.stringMatching(/^heard at .*: channel 1 went on$/))
})

test('an asking from outside that the asked channel answered stands before those of others', () => {
  const asked = (channel: number, secondsAgo: number): Happening => ({ ...state(channel, secondsAgo), kind: 'asked' })
  happenings = [state(2, 4), asked(2, 5), state(1, 29), asked(1, 30), state(3, 49), asked(3, 50)]
  show('hub to unit', 3)
  expect(lines()[0]).toMatch(/^Heard: set on from outside at .*, channel 3 says so 1000 ms later$/)
  expect(lines().filter((words) => words?.includes('from outside'))).toHaveLength(2)
})

test('of the unit as a whole, the newest first; what is older than five minutes is no evidence any more', () => {
  happenings = [state(2, 2), state(1, 3), state(1, 301)]
  show('hub to unit', null)
  expect(lines()).toEqual(['Heard 2 s ago: channel 2 went on', 'Heard 3 s ago: channel 1 went on'])
})

test('nothing heard says that the app listens; where it does not, nothing is said', () => {
  show('button to hub', 1)
  expect(screen.getByText(/The app listens/)).toBeDefined()
  cleanup()
  listening = false
  const { container } = show('button to hub', 1)
  expect(container.textContent).toBe('')
})
