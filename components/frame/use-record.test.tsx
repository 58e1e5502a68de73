/** @jest-environment jsdom */
import { emptyRecord, type StepData } from '@fresh-coat/core/unit/records'
import type { StepRecord } from '@fresh-coat/core/unit/view'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import * as store from './draft-store'
import { useRecord } from './use-record'

jest.mock('./draft-store', () => {
  const kept = new Map<string, unknown>()
  return {
    kept,
    keepDraft: jest.fn(async (key: string, draft: unknown) => void kept.set(key, draft)),
    dropDraft: jest.fn(async (key: string) => void kept.delete(key)),
    takeDrafts: jest.fn(async (key: string) => (kept.has(key) ? [kept.get(key)] : [])),
  }
})
const kept = (store as unknown as { kept: Map<string, unknown> }).kept

type Answer = { status?: number; body: object } | 'away'
let answers: Answer[]
let requests: { url: string; body: { version: number; data: object }; keepalive: boolean }[]
beforeEach(() => {
  jest.useFakeTimers()
  kept.clear()
  answers = []
  requests = []
  let version = 0
  global.fetch = jest.fn(async (url: string, init: { body: string; keepalive: boolean }) => {
    requests.push({ url, body: JSON.parse(init.body), keepalive: init.keepalive })
    const answer = answers.shift() ?? { body: { ok: true, value: { version: ++version } } }
    if (answer === 'away') throw new TypeError('network')
    return { status: answer.status ?? 200, json: async () => answer.body }
  }) as never
})
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

const stored = (data: Partial<StepData['pads']> = {}, version = 0): StepRecord<'pads'> => ({
  data: { ...emptyRecord('pads'), ...data },
  done: null,
  version,
  updatedAt: null,
})

function Editor({ record, onSaved = () => {} }: { record: StepRecord<'pads'>; onSaved?: () => void }) {
  const { data, patch, state, restored, other, keepMine } = useRecord('unit-1', 'pads', record, onSaved)
  return (
    <>
      <input aria-label="note" value={data.note} onChange={(e) => patch({ note: e.target.value })} />
      <output>{state}</output>
      {restored && <p>it is back</p>}
      {other && (
        <button type="button" onClick={keepMine}>
          mine, not {other.data.note}
        </button>
      )}
    </>
  )
}
const client = () => new QueryClient({ defaultOptions: { mutations: { gcTime: 0 } } })
const show = (record = stored(), onSaved?: () => void, queries = client()) =>
  render(
    <QueryClientProvider client={queries}>
      <Editor record={record} onSaved={onSaved} />
    </QueryClientProvider>,
  )
const type = (text: string) => fireEvent.change(screen.getByLabelText('note'), { target: { value: text } })
const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms))
const state = () => screen.getByRole('status').textContent

describe('a record on the page', () => {
  test('is saved once after the last key, with the fields that changed', async () => {
    const saved = jest.fn()
    show(stored(), saved)
    await pass(0)
    for (const text of ['G', 'Gl', 'Glue']) {
      type(text)
      await pass(100)
    }
    expect([requests.length, state()]).toEqual([0, 'typing'])
    await pass(600)
    expect(requests.map((r) => r.body)).toMatchObject([{ version: 0, data: { note: 'Glue' } }])
    expect(Object.keys(requests[0]?.body.data ?? {})).toEqual(['note'])
    expect([state(), saved.mock.calls.length, kept.size]).toEqual(['saved', 1, 0])
  })
  test('left within half a second is saved all the same', async () => {
    const page = show()
    await pass(0)
    type('just typed')
    page.unmount()
    await pass(50)
    expect(requests.map((r) => r.body.data)).toEqual([{ note: 'just typed' }])
  })
  test('closing the tab sends it along with the page', async () => {
    show()
    await pass(0)
    type('last words')
    await act(async () => window.dispatchEvent(new Event('pagehide')))
    await pass(0)
    expect(requests.map((r) => [r.keepalive, r.body.data])).toEqual([[true, { note: 'last words' }]])
  })
  test('stays in the browser while the server is away, is tried again ever more slowly, and says so', async () => {
    answers = ['away', 'away', { status: 503, body: {} }]
    show()
    await pass(0)
    type('into the void')
    await pass(500)
    expect([state(), kept.size, requests.length]).toEqual(['away', 1, 1])
    await pass(1100)
    await pass(2100)
    expect([requests.length, state()]).toEqual([3, 'away'])
    await pass(4100)
    expect([requests.length, state(), kept.size]).toEqual([4, 'saved', 0])
  })
  test('a refusal is shown and not sent again', async () => {
    answers = [{ status: 422, body: { ok: false, error: { code: 'input', message: 'no', kept: '', next: '' } } }]
    show()
    await pass(0)
    type('bad')
    await pass(500)
    await pass(60_000)
    expect([state(), requests.length]).toEqual(['refused', 1])
  })
  test('what was typed before a reload comes back and is saved', async () => {
    kept.set('unit-1:pads', {
      base: emptyRecord('pads'),
      mine: { ...emptyRecord('pads'), note: 'before the crash' },
      version: 0,
    })
    show()
    await pass(0)
    expect([(screen.getByLabelText('note') as HTMLInputElement).value, !!screen.queryByText('it is back')]).toEqual([
      'before the crash',
      true,
    ])
    await pass(500)
    expect([state(), requests.length]).toEqual(['saved', 1])
  })
  test('what is typed while the drafts are still being looked for is not lost', async () => {
    let found: (drafts: never[]) => void = () => {}
    ;(store.takeDrafts as jest.Mock).mockImplementationOnce(() => new Promise((resolve) => (found = resolve)))
    show()
    type('quick')
    await act(async () => found([]))
    expect(kept.size).toBe(1)
    await pass(500)
    expect(requests.map((r) => r.body.data)).toEqual([{ note: 'quick' }])
  })
  test('two versions of one field: asked, and mine goes over theirs with their version', async () => {
    const theirs = { data: { ...emptyRecord('pads'), note: 'theirs' }, version: 5 }
    answers = [
      { status: 409, body: { ok: false, error: { code: 'stale', message: '', kept: '', next: '', current: theirs } } },
    ]
    show()
    await pass(0)
    type('mine')
    await pass(500)
    fireEvent.click(screen.getByText('mine, not theirs'))
    await pass(500)
    expect(requests.map((r) => [r.body.version, r.body.data])).toEqual([
      [0, { note: 'mine' }],
      [5, { note: 'mine' }],
    ])
    expect(state()).toBe('saved')
  })
  test('a newer version from the server shows when nothing is typed here', async () => {
    const queries = client()
    const page = show(stored(), undefined, queries)
    await pass(0)
    page.rerender(
      <QueryClientProvider client={queries}>
        <Editor record={stored({ note: 'from another tab' }, 3)} />
      </QueryClientProvider>,
    )
    expect((screen.getByLabelText('note') as HTMLInputElement).value).toBe('from another tab')
  })
})
