/** @jest-environment jsdom */
import { type Records, unit } from '@fresh-coat/core/testing/a-unit'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { useState } from 'react'
import type { SurfaceProps } from '@/components/steps/context'
import { Drills, PowerCutPredicted } from './drills'

class SilentLine {
  addEventListener() {}
  close() {}
}
Object.defineProperty(globalThis, 'EventSource', { value: SilentLine, configurable: true })
const away = 60_000
let wentAt = 0
const happenings = () => [
  { at: wentAt + away, kind: 'online' },
  { at: wentAt, kind: 'offline' },
]
beforeEach(() => {
  wentAt = Date.now() - 10 * 60_000
  global.fetch = jest.fn(async () => ({
    ok: true,
    json: async () => ({
      ok: true,
      value: { listening: true, response: null, row: null, happenings: happenings(), hours: [], wishes: [] },
    }),
  })) as never
})
afterEach(cleanup)

const pins = {
  template: {
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'P1',
    family: 'LX106',
    pins: [
      { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high' },
      { pin: 'GPIO0', fn: 'button', ch: 1, active: 'low' },
    ],
  },
}
const heater = { contact: 'NO', kind: 'heater', wayOut: false, attended: true }
const records = (load: object | null): Records =>
  ({ pins, behaviour: { channels: [{ ch: 1, onPower: 'off', pulseMs: 0, load }] } }) as unknown as Records

function Work({ load }: { load: object | null }) {
  const [drills, setDrills] = useState<object[]>([])
  const view = unit({ ...records(load), prove: { drills: drills as never } }, { today: '2026-11-28' })
  const props = {
    view,
    record: { data: view.records.prove.data, patch: (p: { drills: object[] }) => setDrills(p.drills) },
  } as unknown as SurfaceProps<'prove'>
  return (
    <QueryClientProvider client={new QueryClient()}>
      <PowerCutPredicted view={view} />
      <Drills {...props} />
    </QueryClientProvider>
  )
}
const show = async (load: object | null = null) => {
  await act(async () => void render(<Work load={load} />))
  return within(screen.getByRole('region', { name: 'The Wi-Fi off for 10 minutes' }))
}

test('what is predicted stands there before anything is tried', async () => {
  const wifi = await show()
  expect(wifi.getByText('Its button still works; it is as before when that is back.')).toBeTruthy()
  expect(screen.getByRole('list', { name: 'Predicted' }).textContent).toBe('Predicted: It is off when that is back.')
  expect(screen.queryByRole('region', { name: /supply off/ })).toBeNull()
})

test('as predicted is one press; otherwise wants the difference in words', async () => {
  const wifi = await show()
  const otherwise = () => wifi.getByRole('button', { name: 'It did otherwise' }) as HTMLButtonElement
  expect(otherwise().disabled).toBe(true)
  fireEvent.change(wifi.getByLabelText('What went otherwise'), { target: { value: 'it went dark' } })
  fireEvent.click(otherwise())
  expect(wifi.getByRole('heading').textContent).toMatch(/otherwise.*28 Nov 2026: it went dark/)
  fireEvent.click(wifi.getByRole('button', { name: 'As predicted' }))
  expect(wifi.getByRole('heading').textContent).toMatch(/as predicted.*28 Nov 2026$/)
})

test('a heater waits until its load is off or somebody stands beside it', async () => {
  const wifi = await show(heater)
  const predicted = () => wifi.getByRole('button', { name: 'As predicted' }) as HTMLButtonElement
  expect(predicted().disabled).toBe(true)
  fireEvent.click(wifi.getByRole('checkbox', { name: /Its load is off/ }))
  expect(predicted().disabled).toBe(false)
})

test('how long it was away is offered as the listener heard it', async () => {
  const wifi = await show()
  await act(async () => fireEvent.click(await wifi.findByRole('button', { name: 'Take 60 s' })))
  fireEvent.click(wifi.getByRole('button', { name: 'As predicted' }))
  expect(wifi.getByRole('heading').textContent).toContain('back after 60 s')
})

test('what it did days ago is no drill: it is not offered', async () => {
  wentAt = Date.now() - 2 * 86_400_000
  const wifi = await show()
  await act(async () => {})
  expect(wifi.queryByText(/^Heard: away/)).toBeNull()
})
