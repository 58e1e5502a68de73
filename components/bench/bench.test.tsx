/** @jest-environment jsdom */
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { coats, type StepId } from '@fresh-coat/core/unit/way'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import type { ReactNode } from 'react'
import { pack } from '@/components/packed'
import { InHand } from './in-hand'
import { Rack, type RackUnit } from './rack'
import { Waiting } from './waiting'

jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
afterEach(cleanup)
const show = (children: ReactNode) =>
  render(<QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>)

const waits = (step: StepId, severity: 'error' | 'watch' = 'watch'): Assessment['waiting'] => [
  { step, severity, text: `Something about ${step}.`, next: 'Look again.' },
]
const unit = (number: number, more: Partial<RackUnit> = {}): RackUnit & { id: string } => ({
  id: `u${number}`,
  number,
  name: `Lamp ${number}`,
  place: '',
  board: '',
  next: 'wire',
  inService: false,
  inHand: false,
  coats: coats.map((c, i) => ({ id: c.id, done: i === 0 ? 3 : 0, of: 3 })),
  waiting: [],
  ...more,
})
const rows = () => screen.getAllByRole('link').map((l) => l.getAttribute('aria-label'))

describe('the rack', () => {
  test('a row says its number, its name and what is next; what is in the way comes before that', () => {
    show(<Rack given={pack([unit(3), unit(9, { waiting: waits('backup', 'error') })])} by="progress" more={0} />)
    expect(rows()).toEqual(['03 Lamp 3, Wire', '09 Lamp 9, Back up: Something about backup.'])
  })
  test('sorted by place each place stands once, and who has none is not left out', () => {
    show(<Rack given={pack([unit(1, { place: 'pit' }), unit(2), unit(3, { place: 'pit' })])} by="place" more={0} />)
    const pit = screen.getByRole('region', { name: 'pit' })
    expect(within(pit).getAllByRole('link')).toHaveLength(2)
    expect(within(screen.getByRole('region', { name: 'no place' })).getAllByRole('link')).toHaveLength(1)
  })
  test('those that find no room are counted, with the way to them', () => {
    show(<Rack given={pack([unit(1)])} by="progress" more={12} />)
    expect(screen.getByText('12 more at work').getAttribute('href')).toBe('/units')
  })
})

describe('what is in hand', () => {
  test('goes on with its next step by a key', () => {
    show(<InHand unit={unit(17)} open="It is open." />)
    const on = screen.getByRole('link', { name: /Carry on/ })
    expect([on.getAttribute('href'), on.getAttribute('data-key')]).toEqual(['/units/17/wire', '.'])
    expect(screen.getByText(/It is open\./)).toBeTruthy()
  })
  test('with empty hands a new unit is offered', () => {
    show(<InHand unit={null} open="" />)
    expect(screen.getByRole('link', { name: 'New unit' }).getAttribute('href')).toBe('/units/new')
  })
})

describe('what waits', () => {
  const waiting = (n: number) =>
    Array.from({ length: n }, (_, i) => ({ ...unit(i + 1), waiting: waits('meter'), due: null, dueWhat: '' }))
  const see = (more: Partial<Parameters<typeof Waiting>[0]> = {}) =>
    show(<Waiting units={[]} count={0} due={[]} pieces={[]} log={[]} {...more} />)
  const region = () => within(screen.getByRole('region', { name: 'Waiting on you' }))

  test('nothing is said as nothing', () => {
    see()
    expect(region().getByText('Nothing waits.')).toBeTruthy()
    expect(screen.getByText('Nothing fits.')).toBeTruthy()
  })
  test('the first six are shown with their way out and its minutes; how many more there are is said', () => {
    see({ units: waiting(8), count: 9 })
    expect(region().getAllByRole('listitem')).toHaveLength(6)
    expect(region().getAllByText('Look again. 25 min.')).toHaveLength(6)
    expect(region().getByText('3 more units wait').getAttribute('href')).toBe('/units?waits=yes')
  })
  test('what falls due soon is said by its day, and leads to its step', () => {
    see({ due: [{ ...unit(4), due: '2026-12-02', dueWhat: 'Meter re-check' }] })
    const row = region().getByText(/Meter re-check falls due 2 Dec 2026\./)
    expect(row.closest('a')?.getAttribute('href')).toBe('/units/4/meter')
  })
  test('the time at hand is filled without two pieces at once, what is wrong before what only goes on', () => {
    see({
      pieces: [
        { number: 1, step: 'pins', waits: false },
        { number: 2, step: 'meter', waits: true },
        { number: 3, step: 'check', waits: false },
        { number: 4, step: 'open', waits: false },
      ],
    })
    const spans = () =>
      within(screen.getByRole('list', { name: 'In this order' }))
        .getAllByRole('listitem')
        .map((li) => {
          const [from = 0, to = 0] = (/(\d+)–(\d+)/.exec(li.textContent ?? '') ?? []).slice(1).map(Number)
          return { number: Number((li.textContent ?? '').slice(0, 2)), from, to }
        })
    for (const name of ['half', 'an hour', 'two']) {
      fireEvent.click(screen.getByRole('button', { name }))
      const list = spans()
      for (const [i, s] of list.entries()) {
        expect(s.to).toBeGreaterThan(s.from)
        if (i > 0) expect(s.from).toBeGreaterThanOrEqual((list[i - 1] as (typeof list)[number]).to - 1)
      }
      expect(list.at(-1)?.to).toBeLessThanOrEqual({ half: 30, 'an hour': 60, two: 120 }[name] as number)
    }
    fireEvent.click(screen.getByRole('button', { name: 'half' }))
    expect(spans().map((s) => s.number)).toContain(2)
    expect(screen.getByText(/more do not fit/)).toBeTruthy()
  })
})
