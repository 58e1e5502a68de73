/** @jest-environment jsdom */
import { unit as aUnit, type Records } from '@fresh-coat/core/testing/a-unit'
import { assess } from '@fresh-coat/core/unit/assess'
import { emptyRecord } from '@fresh-coat/core/unit/records'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import type { ReactNode } from 'react'
import { BottomBar } from './bottom-bar'
import { Conflict } from './conflict'
import { Unreadable } from './step-notices'
import { Strip } from './strip'
import { applyParts, applyRecord, type UnitPage } from './unit-data'
import type { RecordHandle } from './use-record'
import { useUnitActions } from './use-unit-actions'

const push = jest.fn()
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh: jest.fn() }) }))
afterEach(cleanup)

/** A unit of no known board; what is done rests on nothing that still holds. */
function unit(data: Records = {}, done: StepId[] = []): UnitView {
  const view = aUnit(data, { board: null, inHand: false, topic: null }, done)
  for (const step of done) view.records[step].done = { at: '2026-11-20T10:00:00Z', by: 'x', how: 'done', basis: {} }
  return view
}
const inClient = (children: ReactNode, client = new QueryClient()) =>
  render(<QueryClientProvider client={client}>{children}</QueryClientProvider>)

describe('the strip', () => {
  const strip = (view: UnitView, step: StepId) => inClient(<Strip view={view} step={step} assessment={assess(view)} />)
  const desktop = () => screen.getByRole('list', { name: 'Coats' })
  test('shows the steps of the coat in hand, and how each stands', () => {
    strip(unit({ arrive: { route: 'ready-flashed' } }, ['arrive']), 'identify')
    const coats = within(desktop())
    expect(coats.getByRole('link', { name: /Arrive/ }).textContent).toContain('stale')
    expect(coats.getByRole('link', { name: /Open/ }).textContent).toContain('skipped')
    expect(coats.getByRole('link', { current: 'step' }).textContent).toContain('Identify')
    expect(coats.getAllByRole('link')).toHaveLength(3)
  })
  test('opens another coat on a tap, a focus or a pointer, and says how far it is', () => {
    strip(unit(), 'identify')
    const coats = within(desktop())
    const cure = coats.getByRole('button', { name: /^Cure, 0 of 5 done/ })
    fireEvent.focus(cure)
    expect(cure.getAttribute('aria-expanded')).toBe('true')
    expect(coats.getByRole('link', { name: /Meter/ }).getAttribute('href')).toBe('/units/7/meter')
    fireEvent.keyDown(cure, { key: 'Escape' })
    expect(coats.queryByRole('link', { name: /Meter/ })).toBeNull()
    fireEvent.mouseEnter(cure.closest('li') as Element)
    expect(coats.getByRole('link', { name: /Meter/ })).toBeTruthy()
  })
  test('turns to a step by changing the address, without loading a page; with Ctrl it is a link like any other', () => {
    strip(unit(), 'pads')
    window.scrollTo = () => {}
    const wire = within(desktop()).getByRole('link', { name: /Wire/ })
    // The browser would follow it; this one cannot.
    window.addEventListener('click', (e) => e.preventDefault(), { once: true })
    fireEvent.click(wire, { ctrlKey: true })
    expect(window.location.pathname).toBe('/')
    expect(fireEvent.click(wire)).toBe(false)
    expect(window.location.pathname).toBe('/units/7/wire')
    window.history.replaceState(null, '', '/')
  })
})

describe('the one button', () => {
  const bar = (view: UnitView, step: StepId, more: object = {}) => {
    const finish = jest.fn()
    const assessment = assess(view)
    const here = assessment.steps.find((s) => s.id === step)
    if (!here) throw new Error('no step')
    const nothing = () => {}
    inClient(
      <BottomBar
        view={view}
        step={step}
        here={here}
        next={assessment.next}
        saving="saved"
        before={null}
        after={8}
        busy={false}
        finish={finish}
        reopen={nothing}
        undo={nothing}
        openBench={nothing}
        openTrouble={nothing}
        openKnown={nothing}
        openWords={nothing}
        {...more}
      />,
    )
    return finish
  }
  test('stays shut while something is missing, and says what', () => {
    const finish = bar(unit(), 'join')
    const button = screen.getByRole('button', { name: /Join Wi-Fi: done/ }) as HTMLButtonElement
    expect(button.disabled).toBe(true)
    fireEvent.click(button)
    expect(finish).not.toHaveBeenCalled()
    expect(screen.getByText('Paste a lease list or neighbour table, or type it.')).toBeTruthy()
  })
  test('two versions are chosen between field by field, in words', () => {
    const choose = jest.fn()
    inClient(
      <Conflict
        mine={{ loadWatts: 60, note: '' }}
        theirs={{ loadWatts: 1200, note: 'warm' }}
        fields={['loadWatts', 'note']}
        choose={choose}
      />,
    )
    const note = within(screen.getByRole('group', { name: 'the note' }))
    expect(note.getByRole('radio', { name: /here nothing/ })).toBeTruthy()
    fireEvent.click(note.getByRole('radio', { name: /saved meanwhile warm/ }))
    fireEvent.click(screen.getByRole('button', { name: 'Keep what I chose' }))
    expect(choose).toHaveBeenLastCalledWith(['note'])
    fireEvent.click(screen.getByRole('button', { name: 'Take the saved one' }))
    expect(choose).toHaveBeenLastCalledWith(['loadWatts', 'note'])
  })
  test('leads to the two versions, wherever the page stands', () => {
    inClient(<Conflict mine={{ note: 'a' }} theirs={{ note: 'b' }} fields={['note']} choose={() => {}} />)
    bar(unit(), 'join', { saving: 'conflict' })
    fireEvent.click(screen.getByRole('button', { name: 'Two versions: choose one' }))
    expect(document.activeElement?.textContent).toMatch(/Keep what is here/)
  })
  test('opens when everything is there', () => {
    const finish = bar(unit({ join: { address: '192.168.71.9', confirmedBy: 'by hand' } }), 'join')
    fireEvent.click(screen.getByRole('button', { name: /Join Wi-Fi: done/ }))
    expect(finish).toHaveBeenCalledTimes(1)
  })
  test('asks nothing where the step is not on the route of the unit, and leads on', () => {
    bar(unit({ arrive: { route: 'ready-flashed', triedAsSold: 'works' } }), 'open')
    expect(screen.getByText('Not on its route: nothing is asked here.')).toBeTruthy()
    expect(screen.queryByRole('button', { name: /: done/ })).toBeNull()
  })
  test('says when the server is away, in words and for scripts', () => {
    bar(unit(), 'join', { saving: 'away' })
    expect(screen.getByText(/It is kept here and tried again/).getAttribute('data-save-state')).toBe('away')
  })
})

describe('a record that cannot be read', () => {
  test('is offered as a file, and begun anew only on purpose', () => {
    const beginAnew = jest.fn()
    const record = { ...unit().records.join, unreadable: { where: '/address', what: 'a number' } }
    render(<Unreadable record={record} href="/api/units/7/join/record" beginAnew={beginAnew} />)
    expect(screen.getByRole('link', { name: /Save a copy/ }).getAttribute('href')).toBe('/api/units/7/join/record')
    fireEvent.click(screen.getByRole('button', { name: /Put it aside/ }))
    expect(beginAnew).toHaveBeenCalledTimes(1)
  })
  test('one that can be read says nothing', () => {
    const { container } = render(<Unreadable record={unit().records.join} href="" beginAnew={() => {}} />)
    expect(container.innerHTML).toBe('')
  })
})

const page = (view: UnitView): UnitPage => ({
  view,
  choices: {
    boards: [],
    adapters: [],
    instruments: [],
    loads: [],
    hubs: [],
    profiles: [],
    images: [],
    twins: [],
    otherUnits: [],
    markings: [],
    next: { number: 8, name: 'x' },
    pace: null,
    routes: {},
    modules: [],
    lines: [],
    secrets: [],
  },
  log: [],
  before: null,
  after: null,
})

describe('what a command answered', () => {
  const gates = [{ gate: 'mains-off' as const, day: '2026-11-27', at: '', by: 'x', measured: '' }]
  test('is drawn on every step that is loaded, and touches nothing else', () => {
    const client = new QueryClient()
    client.setQueryData(['unit', 7, 'open'], page(unit()))
    client.setQueryData(['unit', 7, 'wire'], page(unit()))
    client.setQueryData(['unit', 8, 'wire'], page(unit()))
    applyParts(client, 7, {
      view: { gates },
      records: {},
      log: [{ id: 1, at: '', sentence: 'gate confirmed', undone: false }],
    })
    const of = (n: number, step: string) => client.getQueryData<UnitPage>(['unit', n, step])
    expect([of(7, 'open')?.view.gates, of(7, 'wire')?.view.gates, of(8, 'wire')?.view.gates]).toEqual([
      gates,
      gates,
      [],
    ])
    expect([of(7, 'wire')?.view.name, of(7, 'wire')?.log.length]).toEqual(['Glue pot', 1])
  })
  test('a saved record is known to the other steps at once', () => {
    const client = new QueryClient()
    client.setQueryData(['unit', 7, 'open'], page(unit()))
    applyRecord(client, 7, 'arrive', { data: { ...emptyRecord('arrive'), route: 'built' }, version: 2 })
    const view = client.getQueryData<UnitPage>(['unit', 7, 'open'])?.view
    expect([view?.route, view?.records.arrive.version]).toEqual(['built', 2])
  })
})

function Actor({ handle, view }: { handle: RecordHandle<'join'>; view: UnitView }) {
  const { act: run, refusal, away, busy } = useUnitActions(view, 'join', handle)
  return (
    <>
      <button type="button" disabled={busy} onClick={() => void run('finish-step', { unitId: 'u1', step: 'join' })}>
        go
      </button>
      {refusal && <p>{refusal.message}</p>}
      {away && <p>away</p>}
    </>
  )
}

describe('acting on the unit', () => {
  const record = (flush: () => Promise<boolean>): RecordHandle<'join'> =>
    ({ flush, adopt: jest.fn(), version: () => 1, state: 'saved' }) as unknown as RecordHandle<'join'>
  const answer = (status: number, body: object) => {
    global.fetch = jest.fn(async () => ({ status, json: async () => body })) as never
  }
  const go = async () => {
    await act(async () => {
      fireEvent.click(screen.getByRole('button', { name: 'go' }))
    })
  }
  test('waits for what is typed: a save that did not work stops the command', async () => {
    answer(200, { ok: true, value: {} })
    inClient(<Actor handle={record(async () => false)} view={unit()} />)
    await go()
    expect(global.fetch).not.toHaveBeenCalled()
  })
  test('a refusal is shown in its words', async () => {
    answer(422, { ok: false, error: { code: 'not-yet', message: 'Join Wi-Fi isn’t done yet.', kept: '', next: '' } })
    inClient(<Actor handle={record(async () => true)} view={unit()} />)
    await go()
    await waitFor(() => expect(screen.getByText('Join Wi-Fi isn’t done yet.')).toBeTruthy())
  })
  test('a server that is away is said, and the button opens again', async () => {
    answer(503, {})
    inClient(<Actor handle={record(async () => true)} view={unit()} />)
    await go()
    await waitFor(() => expect(screen.getByText('away')).toBeTruthy())
    expect((screen.getByRole('button', { name: 'go' }) as HTMLButtonElement).disabled).toBe(false)
  })
  test('what came back is adopted by the record on screen; a unit that was taken back leaves the page', async () => {
    const handle = record(async () => true)
    const back = { ...unit().records.join, version: 0 }
    answer(200, { ok: true, value: {}, unit: { view: {}, records: { join: back }, log: [] } })
    inClient(<Actor handle={handle} view={unit()} />)
    await go()
    expect(handle.adopt).toHaveBeenCalledWith(back)
    answer(200, { ok: true, value: {}, unit: { view: null, records: {}, log: [] } })
    await go()
    expect(push).toHaveBeenCalledWith('/units')
  })
})
