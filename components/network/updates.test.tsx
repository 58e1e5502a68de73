/** @jest-environment jsdom */
import { campaignKept, campaignNow } from '@fresh-coat/core/fleet/campaign'
import { boardOf } from '@fresh-coat/core/fleet/campaign-board'
import { asAsked, campaignUnit } from '@fresh-coat/core/testing/a-campaign'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { pack } from '../packed'
import { Updates } from './updates'

const [refresh, replace] = [jest.fn(), jest.fn()]
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh, replace, prefetch: jest.fn() }) }))
class SilentLine {
  addEventListener() {}
  close() {}
}
Object.defineProperty(globalThis, 'EventSource', { value: SilentLine, configurable: true })
afterEach(() => {
  cleanup()
  jest.clearAllMocks()
  window.history.replaceState(null, '', '/network/updates')
})

const start = '2026-12-01T20:00:00Z'
const campaign = campaignKept.parse({
  policy: {
    firmware: 'Plainsong',
    version: '9.5.0',
    start,
    utcOffset: 'Z',
    rings: [{ name: 'Trial', count: 1 }, { name: 'The rest' }],
    soakHours: [48],
  },
})
const units = (n: number) => Array.from({ length: n }, (_, i) => campaignUnit(i + 1, { installed: '9.4.0' }))
const see = (n: number, asked: number | null = null) => {
  const now = Date.parse(start)
  const stands = campaignNow(campaign, ...asAsked(units(n)), now)
  const board = boardOf(campaign, stands, now, null, asked, { inRing: 48, inList: 30, inWords: 30 })
  const names = Object.fromEntries(units(n).map((u) => [u.number, `Lamp ${u.number}`]))
  const room = { policy: campaign.policy, board, survival: null, firmwares: [{ name: 'Plainsong', units: n }] }
  return render(
    <QueryClientProvider client={new QueryClient()}>
      <Updates given={pack({ room: { ...room, special: [], names }, asked })} />
    </QueryClientProvider>,
  )
}
const press = (name: string | RegExp) =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })

test('a unit that is on the page is shown at once, and a link to it stands in the address', async () => {
  see(5)
  await press(/02 Lamp 2/)
  expect(screen.getByRole('heading', { name: '02 Lamp 2' })).toBeTruthy()
  expect(screen.getByText('The ring Trial comes first.')).toBeTruthy()
  expect(window.location.search).toBe('?unit=2')
  expect(replace).not.toHaveBeenCalled()
})
test('any other of thousands is asked for by its number', async () => {
  see(4000)
  expect(within(screen.getByRole('list', { name: 'Units of the update' })).getAllByRole('button')).toHaveLength(30)
  fireEvent.change(screen.getByLabelText(/Another of the 4000/), { target: { value: '3999' } })
  await press('Show it')
  expect(replace).toHaveBeenCalledWith('?unit=3999', { scroll: false })
})
test('a link to a unit far down opens with it; one to a unit that is not in it says so', () => {
  see(4000, 3999)
  expect(screen.getByRole('heading', { name: '3999 Lamp 3999' })).toBeTruthy()
  cleanup()
  see(3, 77)
  expect(screen.getByText('No unit of this update has the number 77.').getAttribute('role')).toBe('status')
})
test('rings are counted in the heading and in their drawing, though not all of them are drawn', () => {
  see(4000)
  expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(/4000 units in 2 rings; 0 begun/)
  expect(screen.getByRole('img', { name: /and 3951 more/ })).toBeTruthy()
})
