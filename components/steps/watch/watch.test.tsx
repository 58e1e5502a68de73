/** @jest-environment jsdom */
import type { OnAirRow, UnitOnAirPage } from '@fresh-coat/core/live/on-air'
import { unit } from '@fresh-coat/core/testing/a-unit'
import { assess } from '@fresh-coat/core/unit/assess'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { cleanup, render, screen, waitFor } from '@testing-library/react'
import type { SurfaceProps } from '@/components/steps/context'
import { settled } from '@/components/testing/on-the-bench'
import { WatchSurface } from './surface'

class SilentLine {
  addEventListener() {}
  close() {}
}
Object.defineProperty(globalThis, 'EventSource', { value: SilentLine, configurable: true })
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
afterEach(cleanup)

const now = Date.now()
const heard = (more: Partial<OnAirRow> = {}): OnAirRow => ({
  unitId: 'u1',
  number: 7,
  name: 'Glue pot',
  place: '',
  presence: 'online',
  flapping: false,
  staleAt: null,
  usualS: 30,
  heardAt: now - 4000,
  fields: { 'channel/1/on': { value: true, at: now }, P: { value: 59, at: now } },
  restarts: 0,
  skewS: null,
  beats: [],
  changes: [],
  ...more,
})
async function see(page: Partial<UnitOnAirPage>, topic: string | null = 'yard/lantern/glue-pot') {
  const value = { response: null, listening: true, row: null, happenings: [], hours: [], wishes: [], ...page }
  global.fetch = jest.fn(async () => ({ status: 200, json: async () => ({ ok: true, value }) })) as never
  const view = unit({}, { topic })
  const record = { data: view.records.watch.data, patch: () => {}, state: 'saved' }
  const choices = { profiles: [], pace: null, images: [] }
  render(
    <QueryClientProvider client={new QueryClient()}>
      <WatchSurface
        {...({
          view,
          assessment: assess(view),
          record,
          choices,
          act: async () => true,
        } as unknown as SurfaceProps<'watch'>)}
      />
    </QueryClientProvider>,
  )
  if (topic) await waitFor(() => expect(global.fetch).toHaveBeenCalled(), { timeout: 20_000 })
  // What came is drawn.
  await settled()
}
/** What stands behind the word Now. */
const said = async () => (await screen.findByText('Now', {}, { timeout: 20_000 })).nextElementSibling?.textContent ?? ''

test('a unit on the air says what it is, its watts, and how long ago it was heard', async () => {
  await see({ row: heard() })
  expect(await said()).toMatch(/^on, 59 W\s*heard \d+ s ago$/)
})
test.each<[string, Partial<OnAirRow>, RegExp]>([
  ['one that fell silent', { presence: 'stale', heardAt: now - 400_000 }, /^silent, on, 59 W\s*heard 7 min ago$/],
  ['one that left', { presence: 'offline' }, /^gone, /],
  ['one that comes and goes', { flapping: true }, /^comes and goes, /],
  ['one that was only told of', { heardAt: null }, /only told of, never heard$/],
])('%s is not shown as if it were there', async (_, row, words) => {
  await see({ row: heard(row) })
  expect(await said()).toMatch(words)
})
test('one that nobody has heard yet is said so', async () => {
  await see({ row: null })
  expect(await said()).toBe('not heard yet')
})
test('without a listener, or without a topic, nothing is claimed', async () => {
  await see({ listening: false, row: heard() })
  await new Promise((r) => setTimeout(r, 50))
  expect(screen.queryByText('Now')).toBeNull()
  cleanup()
  await see({ row: heard() }, null)
  await new Promise((r) => setTimeout(r, 50))
  expect(screen.queryByText('Now')).toBeNull()
  expect(global.fetch).not.toHaveBeenCalled()
})
