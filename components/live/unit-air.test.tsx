/** @jest-environment jsdom */
import type { UnitOnAirPage } from '@fresh-coat/core/live/on-air'
import { unit } from '@fresh-coat/core/testing/a-unit'
import { emptyRecord } from '@fresh-coat/core/unit/records'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { UnitAir } from './unit-air'

class SilentLine {
  addEventListener() {}
  close() {}
}
Object.defineProperty(globalThis, 'EventSource', { value: SilentLine, configurable: true })
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))

const now = Date.now()
const page = (more: Partial<UnitOnAirPage> = {}): UnitOnAirPage => ({
  response: null,
  listening: true,
  row: {
    unitId: 'u1',
    number: 1,
    name: 'Lamp',
    place: '',
    presence: 'online',
    flapping: false,
    staleAt: null,
    usualS: 30,
    heardAt: now - 5000,
    fields: { 'channel/1/on': { value: false, at: now }, P: { value: 0, at: now } },
    restarts: 0,
    skewS: null,
    beats: [],
    changes: [],
  },
  happenings: [],
  hours: [],
  wishes: [],
  ...more,
})
let commands: { name: string; body: unknown }[] = []
let answer: { status: number; body: object } | 'away' = { status: 200, body: { ok: true, value: {} } }
let shown = page()
beforeEach(() => {
  commands = []
  shown = page()
  answer = { status: 200, body: { ok: true, value: {} } }
  global.fetch = jest.fn(async (path: string, init?: RequestInit) => {
    if (!path.startsWith('/api/commands/')) return { status: 200, json: async () => ({ ok: true, value: shown }) }
    commands.push({ name: path.split('/').at(-1) as string, body: JSON.parse(String(init?.body)) })
    if (answer === 'away') throw new TypeError('network')
    return { status: answer.status, json: async () => (answer as { body: object }).body }
  }) as never
})
afterEach(cleanup)

const load = (kind: string | null) => unit({ arrive: { ...emptyRecord('arrive'), load: kind as never } })
async function see(view = load('lamp')) {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <UnitAir view={view} />
    </QueryClientProvider>,
  )
  await screen.findAllByText(/heard \d+ s ago|Nobody has heard it yet|listens to no broker/, {}, { timeout: 20_000 })
}
const press = (name: string | RegExp) =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })

test('a lamp is switched by one press', async () => {
  await see()
  await press('Switch on')
  expect(commands).toEqual([
    { name: 'switch-unit', body: { unitId: load('lamp').id, channel: '1', on: true, sure: false } },
  ])
})
test.each([
  ['heater', /somebody has to be there/],
  ['latch-unlocks', /know who is behind it/],
  [null, /Nobody has said what hangs on it/],
])('%s: nothing is sent before somebody says that somebody looks', async (kind, why) => {
  await see(load(kind))
  await press('Switch on')
  expect(commands).toEqual([])
  expect(screen.getByText(why)).toBeTruthy()
  await press('Leave it')
  expect(commands).toEqual([])
  await press('Switch off')
  await press('Somebody looks: switch channel 1 off')
  expect(commands.map((c) => c.body)).toEqual([{ unitId: load(kind).id, channel: '1', on: false, sure: true }])
})
test('a press that never reached the server is said: nobody waits for a light that does not come', async () => {
  await see()
  answer = 'away'
  await press('Switch on')
  expect(screen.getByRole('alert').textContent).toMatch(/The server does not answer/)
  answer = { status: 200, body: { ok: true, value: {} } }
  await press('Switch on')
  expect(screen.queryByRole('alert')).toBeNull()
})
test('what came back is said as it was heard, and what did not come back too', async () => {
  const wish = { channel: '1', value: true, note: '', madeAt: now, sentAt: now, answeredAt: null }
  shown = page({
    wishes: [
      { ...wish, id: 4, state: 'answered', answeredAt: now + 180 },
      { ...wish, id: 3, state: 'silent' },
      { ...wish, id: 2, state: 'late' },
      { ...wish, id: 1, state: 'failed', note: 'The broker is away.' },
    ] as never,
  })
  await see()
  const said = screen.getByRole('list', { name: 'Asked of it' }).textContent ?? ''
  expect(said).toMatch(/1 on: state 180 ms later/)
  expect(said).toMatch(/1 on: sent, and nothing came back/)
  expect(said).toMatch(/1 on: not sent, it was too late/)
  expect(said).toMatch(/1 on: not sent\. The broker is away\./)
})
test('without a listener nothing can be switched, and that is said', async () => {
  shown = page({ listening: false })
  await see()
  expect(screen.getByText(/listens to no broker yet/)).toBeTruthy()
  expect(screen.queryByRole('button')).toBeNull()
})
test('one that was only told of is not called heard', async () => {
  const { row } = page()
  shown = page({ row: row && { ...row, heardAt: null, presence: 'unknown' as never } })
  render(
    <QueryClientProvider client={new QueryClient()}>
      <UnitAir view={load('lamp')} />
    </QueryClientProvider>,
  )
  expect(await screen.findByText(/never heard, only told of/, {}, { timeout: 20_000 })).toBeTruthy()
})
