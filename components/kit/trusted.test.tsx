/** @jest-environment jsdom */
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { press, type } from '@/components/testing/on-the-bench'
import { LoadRow, ReferenceRow } from './trusted-forms'

const sent: [string, Record<string, unknown>][] = []
let served: object = { state: 'ok', value: {} }
jest.mock('@/components/send', () => ({
  ...jest.requireActual('@/components/send'),
  send: async (command: string, input: Record<string, unknown>) => {
    sent.push([command, input])
    return served
  },
}))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
beforeEach(() => {
  sent.length = 0
  served = { state: 'ok', value: {} }
})
afterEach(cleanup)

const reference = (checks: { on: string; note: string }[], everyMonths: number | null = 24) => ({
  id: 'r1',
  version: 3,
  name: 'Outlet meter',
  gainPct: 0.5,
  digits: 2,
  resolution: 0.1,
  checks,
  everyMonths,
})

describe('a meter that others are held against', () => {
  test('that nobody checked is not trusted by silence', () => {
    render(<ReferenceRow reference={reference([])} today="2026-11-24" />)
    expect(screen.getByText('not checked')).toBeTruthy()
    expect(screen.queryByText('ok')).toBeNull()
  })
  test('is due after its day, by its newest check, in whatever order they were written down', () => {
    const checks = [
      { on: '2022-03-01', note: 'lab' },
      { on: '2024-11-23', note: 'club' },
    ]
    render(<ReferenceRow reference={reference(checks)} today="2026-11-24" />)
    expect(screen.getByText('due')).toBeTruthy()
    expect(screen.getByText(/Checked 23 Nov 2024, club; again 23 Nov 2026\. Before: 1 Mar 2022/)).toBeTruthy()
    cleanup()
    render(<ReferenceRow reference={reference(checks)} today="2026-11-23" />)
    expect(screen.getByText('ok')).toBeTruthy()
  })
  test('another check is added to those that are there, and what was typed stays when it is refused', async () => {
    served = { state: 'refused', error: { code: 'stale', message: 'Somebody changed it.', kept: '', next: 'Reload.' } }
    render(<ReferenceRow reference={reference([{ on: '2024-11-23', note: 'club' }])} today="2026-11-24" />)
    fireEvent.click(screen.getByText('It was checked'))
    await type('By whom, against what', 'the school’s')
    await press('Write it down')
    expect(screen.getByText('Somebody changed it.')).toBeTruthy()
    expect((screen.getByLabelText('By whom, against what') as HTMLInputElement).value).toBe('the school’s')
    served = { state: 'ok', value: {} }
    await press('Write it down')
    expect(sent[1]).toEqual([
      'edit-kit',
      expect.objectContaining({
        kitId: 'r1',
        version: 3,
        data: expect.objectContaining({
          gainPct: 0.5,
          checks: [
            { on: '2024-11-23', note: 'club' },
            { on: '2026-11-24', note: 'the school’s' },
          ],
        }),
      }),
    ])
  })
  test('a day that is none is not sent', async () => {
    render(<ReferenceRow reference={reference([])} today="2026-11-24" />)
    fireEvent.click(screen.getByText('It was checked'))
    await type('On', '24.11.2026')
    expect((screen.getByRole('button', { name: 'Write it down' }) as HTMLButtonElement).disabled).toBe(true)
  })
})

describe('a load that is known', () => {
  const load = (ohms: number | null, kind = 'resistive') => ({
    id: 'l1',
    version: 1,
    name: 'Fan heater',
    watts: 2000,
    kind,
    ohms,
    checkedOn: ohms === null ? null : '2026-05-01',
  })
  test('whose resistance says otherwise has drifted, with what it takes now', () => {
    render(<LoadRow load={load(26.45)} today="2026-11-24" volts={230} />)
    expect(screen.getByText('ok')).toBeTruthy()
    cleanup()
    render(<LoadRow load={load(35)} today="2026-11-24" volts={230} />)
    expect(screen.getByText('drifted')).toBeTruthy()
    expect(screen.getByText(/35 Ω cold, 1 May 2026: 1511 W at 230 V/)).toBeTruthy()
  })
  test('nothing is said where nobody measured, and a motor is not measured so', () => {
    render(<LoadRow load={load(null)} today="2026-11-24" volts={230} />)
    expect(screen.queryByText('ok')).toBeNull()
    cleanup()
    render(<LoadRow load={load(30, 'motor')} today="2026-11-24" volts={230} />)
    expect(screen.queryByText('drifted')).toBeNull()
    expect(screen.queryByText('Its resistance, measured cold')).toBeNull()
  })
})
