/** @jest-environment jsdom */
import { unit } from '@fresh-coat/core/testing/a-unit'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { usePastedWords } from './pasted-words'
import { ToolWords } from './tool-words'

jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }))

const text = 'starting\nMAC b8:3c:d0:77:1e:9a\nflash id 68 4014, 1MB\nnow 230400 baud\nwell\nwell\nwell\nhash verified'

beforeEach(() => {
  localStorage.clear()
  globalThis.fetch = jest.fn(async () => ({ ok: true, json: async () => ({ value: [] }) })) as never
})
afterEach(cleanup)

/** The drawer over a unit, with what it sends. */
async function opened(view = unit(), pasted: string | null = text) {
  const sent = jest.fn(async (_command: string, _input: Record<string, unknown>) => true)
  const onOpenChange = jest.fn()
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  await act(async () =>
    render(
      <QueryClientProvider client={client}>
        <ToolWords view={view} step="wire" pasted={pasted} act={sent} refusal={null} onOpenChange={onOpenChange} />
      </QueryClientProvider>,
    ),
  )
  return {
    sent,
    onOpenChange,
    press: (name: RegExp) => act(async () => fireEvent.click(screen.getByRole('button', { name }))),
  }
}
const marked = () => within(screen.getByRole('list', { name: 'Lines that say something' }))
const tick = (name: RegExp) => screen.getByRole<HTMLInputElement>('checkbox', { name })

test('lines that say something are marked, others are left out, and what a step lacks is taken with one press', async () => {
  const { sent, press, onOpenChange } = await opened(unit({}, { board: null }))
  expect(marked().getByText('MAC address b8:3c:d0:77:1e:9a')).toBeTruthy()
  expect(marked().getByText('how it ended')).toBeTruthy()
  expect(marked().queryAllByText('well')).toHaveLength(2)
  await press(/Keep it, and take 2 facts/)
  expect(sent.mock.calls).toEqual([
    [
      'keep-words',
      expect.objectContaining({
        text,
        step: 'wire',
        take: [
          { kind: 'mac', value: 'b8:3c:d0:77:1e:9a' },
          { kind: 'flashId', value: '68 40 14' },
        ],
      }),
    ],
  ])
  expect(onOpenChange).toHaveBeenCalledWith(false)
})

test('what differs from the record says both, and is taken only when somebody ticks it', async () => {
  const { sent, press } = await opened(unit({ join: { mac: 'b8:3c:d0:00:00:01' }, backup: { flashId: '684014' } }))
  expect(screen.getByText('Join Wi-Fi has b8:3c:d0:00:00:01')).toBeTruthy()
  expect(tick(/Take MAC address/).checked).toBe(false)
  fireEvent.click(tick(/Take MAC address/))
  await press(/take one fact/)
  expect(sent.mock.calls[0]?.[1]).toMatchObject({ take: [{ kind: 'mac', value: 'b8:3c:d0:77:1e:9a' }] })
})

test('a text without a fact says so and can still be kept; none at all cannot', async () => {
  const { press, sent } = await opened(unit(), 'it rained\nall day')
  expect(screen.getByText(/2 lines, and none of them says anything/)).toBeTruthy()
  await press(/^Keep it$/)
  expect(sent.mock.calls[0]?.[1]).toMatchObject({ take: [] })
  cleanup()
  await opened(unit(), null)
  expect(screen.queryByRole('button', { name: /^Keep it/ })).toBe(null)
})

test('a text that is too long says how much may be, and nothing of it is lost', async () => {
  await opened(unit(), 'x'.repeat(262_145))
  expect(screen.getByRole('alert').textContent).toMatch(/256 KiB/)
  expect(screen.getByRole<HTMLTextAreaElement>('textbox', { name: /What it printed/ }).value).toHaveLength(262_145)
})

test('what was pasted outlives closing and a reload until it is kept', async () => {
  await opened()
  cleanup()
  const { press } = await opened(unit(), null)
  expect(marked().getByText('now 230400 baud')).toBeTruthy()
  await press(/Keep it/)
  cleanup()
  await opened(unit(), null)
  expect(screen.getByRole<HTMLTextAreaElement>('textbox', { name: /What it printed/ }).value).toBe('')
})

function Page({ heard }: { heard: (text: string) => void }) {
  usePastedWords(heard)
  return <input aria-label="field" />
}

test('a paste beside any field is a tool’s words; in a field it is the field’s', () => {
  const heard = jest.fn()
  render(<Page heard={heard} />)
  const paste = (target: Element | Window) =>
    fireEvent.paste(target as Element, { clipboardData: { getData: () => 'mac b8:3c:d0:77:1e:9a' } })
  paste(screen.getByLabelText('field'))
  expect(heard).not.toHaveBeenCalled()
  paste(document.body)
  expect(heard.mock.calls).toEqual([['mac b8:3c:d0:77:1e:9a']])
})
