/** @jest-environment jsdom */
import type { LinkRow, OnAirRow } from '@fresh-coat/core/live/on-air'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { send } from '@/components/send'
import { OnAir } from './on-air'
import { channelsOf, since, stateWords } from './words'

jest.mock('@/components/send', () => ({
  ...jest.requireActual('@/components/send'),
  send: jest.fn(async () => ({ state: 'ok', value: {} })),
}))
jest.mock('@/components/frame/use-refresh', () => ({ useRefresh: () => jest.fn() }))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
class SilentLine {
  addEventListener() {}
  close() {}
}
Object.defineProperty(globalThis, 'EventSource', { value: SilentLine, configurable: true })
afterEach(cleanup)

const now = Date.now()
const row = (number: number, more: Partial<OnAirRow> = {}): OnAirRow => ({
  unitId: `u${number}`,
  number,
  name: `Unit ${number}`,
  place: '',
  presence: 'online',
  flapping: false,
  staleAt: null,
  usualS: 30,
  heardAt: now - 5000,
  fields: { 'channel/1/on': { value: true, at: now } },
  restarts: 0,
  skewS: null,
  beats: [now - 5000],
  changes: [],
  ...more,
})
const link = (more: Partial<LinkRow> = {}): LinkRow => ({
  state: 'connected',
  broker: '192.168.71.2:1883',
  message: '',
  since: now - 600_000,
  beatAt: now,
  counts: { taken: 12 },
  refused: null,
  dropped: {},
  ...more,
})
const see = (rows: OnAirRow[], l: LinkRow | null, more = {}) =>
  render(
    <OnAir
      initial={{ rows, link: l }}
      after={0}
      senders={[]}
      listener={{ on: true, user: '', ca: '' }}
      broker="192.168.71.2"
      {...more}
    />,
  )

test('before a person says so nothing is listened to, and one press says so', async () => {
  see([], null, { listener: { on: false, user: 'fresh-coat', ca: 'the yard' } })
  expect(screen.getByText('The app does not listen yet.')).toBeDefined()
  await act(async () => fireEvent.click(screen.getByRole('button', { name: 'Listen to 192.168.71.2' })))
  expect(send).toHaveBeenCalledWith('set-listener', { on: true, user: 'fresh-coat', ca: 'the yard' })
})

test.each<[string, Partial<LinkRow> | null, RegExp]>([
  ['a listener that died', { beatAt: now - 60_000 }, /has not been heard of for/],
  ['one that never ran', null, /has not run yet/],
  ['a refusal', { state: 'refused', message: 'The broker refuses the user or the password.' }, /refuses the user/],
])('%s is said, and what is shown is called old', (_, l, words) => {
  see([row(7)], l === null ? null : link(l))
  expect(screen.getByText(words)).toBeDefined()
  expect(screen.getByText('What is shown was heard before.')).toBeDefined()
})

test('the silent and the fluttering are counted, and can be looked at alone', () => {
  see(
    [
      row(1),
      row(2, { presence: 'stale', heardAt: now - 400_000 }),
      row(3, { flapping: true, fields: { rssi: { value: -88, at: now } } }),
    ],
    link(),
  )
  expect(screen.getByText(/Unit 3 comes and goes: at the edge of the Wi-Fi \(-88 dBm\)/)).toBeDefined()
  fireEvent.click(screen.getByRole('button', { name: 'silent 1' }))
  expect(screen.getAllByRole('listitem').filter((li) => li.textContent?.includes('Unit'))).toHaveLength(2)
  expect(screen.getByText(/silent for 7 min, usual gap 30 s/)).toBeDefined()
})

test('what was lost while the database was away stays until somebody has seen it', async () => {
  see([row(1)], link({ dropped: { happenings: 40 } }))
  await act(async () => fireEvent.click(screen.getByRole('button', { name: 'I have seen it' })))
  expect(send).toHaveBeenCalledWith('seen-dropped', {})
})

test('a refused payload is text on the page and nothing else', () => {
  const { container } = see(
    [row(1)],
    link({ refused: { because: 'json', topic: 'a/b', sample: '<img src=x>', at: now } }),
  )
  expect(container.querySelector('img')).toBeNull()
  expect(screen.getByText('<img src=x>')).toBeDefined()
})

test('states in words: one channel, several, none', () => {
  const on = (value: boolean) => ({ value, at: 0 })
  expect(stateWords({ 'channel/1/on': on(false) })).toEqual({ words: 'off', on: false })
  expect(stateWords({ 'channel/10/on': on(true), 'channel/2/on': on(true), 'channel/3/on': on(false) })).toEqual({
    words: '2 10',
    on: true,
  })
  expect(stateWords({ 'channel/1/on': on(false), 'channel/2/on': on(false) }).words).toBe('all off')
  expect(stateWords({ P: on(true) }).words).toBe('')
  expect(channelsOf({ 'channel/warm/on': on(true) })).toEqual([{ channel: 'warm', on: true }])
  expect([since(89_000), since(120_000), since(7_200_000), since(3 * 86_400_000)]).toEqual([
    '89 s',
    '2 min',
    '2 h',
    '3 d',
  ])
})
