/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { openFolds } from '@/components/testing/folds'
import { OneFile } from './one-file'

const refresh = jest.fn()
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh }) }))
afterEach(() => {
  cleanup()
  jest.clearAllMocks()
})
beforeEach(() => {
  Object.assign(URL, { createObjectURL: jest.fn(() => 'blob:x'), revokeObjectURL: jest.fn() })
  jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => {})
})
const press = (name: string) =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
const off = (name: string) => (screen.getByRole('button', { name }) as HTMLButtonElement).disabled
const answer = (status: number, body: object) => {
  global.fetch = jest.fn(async () => ({
    ok: status < 300,
    status,
    json: async () => body,
    blob: async () => new Blob(['{}']),
  })) as never
}
const calls = () => (global.fetch as jest.Mock).mock.calls
const choose = () =>
  fireEvent.change(screen.getByLabelText('The file'), {
    target: { files: [new File(['{}'], 'all.json', { type: 'application/json' })] },
  })

test('what holds no secret leaves with one press', async () => {
  answer(200, {})
  render(<OneFile />)
  openFolds()
  await press('Save it as a file')
  expect(calls()).toEqual([['/api/export/bundle']])
  expect(HTMLAnchorElement.prototype.click).toHaveBeenCalledTimes(1)
})
test('secrets leave only sealed: never without eight signs, and the passphrase never in an address', async () => {
  answer(200, {})
  render(<OneFile />)
  openFolds()
  fireEvent.click(screen.getByLabelText('Secrets too'))
  expect(off('Save it as a file')).toBe(true)
  fireEvent.change(screen.getByLabelText('Passphrase that seals them'), { target: { value: 'seven77' } })
  expect(off('Save it as a file')).toBe(true)
  fireEvent.change(screen.getByLabelText('Passphrase that seals them'), { target: { value: 'paper moon' } })
  await press('Save it as a file')
  const [[path, init]] = calls() as [[string, RequestInit]]
  expect(path).toBe('/api/export/bundle')
  expect(init.method).toBe('POST')
  expect(JSON.parse(String(init.body))).toEqual({ secrets: true, dumps: false, passphrase: 'paper moon' })
})
test.each([
  [{ rows: 0, units: 24, secrets: 0, leftSealed: false }, 'It was all here already: nothing changed.'],
  [{ rows: 900, units: 24, secrets: 0, leftSealed: false }, '24 units are here.'],
])('what was brought in is said by what changed: %j', async (value, words) => {
  answer(200, { ok: true, value })
  render(<OneFile />)
  openFolds()
  expect(off('Bring it in')).toBe(true)
  choose()
  await press('Bring it in')
  expect(screen.getByText(words)).toBeTruthy()
  expect(refresh).toHaveBeenCalledTimes(1)
})
test('what stayed sealed is said, with the way to it', async () => {
  answer(200, { ok: true, value: { rows: 900, units: 24, secrets: 0, leftSealed: true } })
  render(<OneFile />)
  openFolds()
  choose()
  await press('Bring it in')
  expect(screen.getByText(/bring it in once more, with its passphrase/)).toBeTruthy()
})
test('a file that is refused changes nothing, and why is said; so is a server that is away', async () => {
  answer(409, { ok: false, error: { message: 'There are units here already.', next: 'Use an empty shop.' } })
  render(<OneFile />)
  openFolds()
  choose()
  await press('Bring it in')
  expect(screen.getByText('There are units here already.')).toBeTruthy()
  expect(refresh).not.toHaveBeenCalled()
  global.fetch = jest.fn(async () => {
    throw new TypeError('network')
  }) as never
  await press('Bring it in')
  expect(screen.getByText('The server does not answer.')).toBeTruthy()
  expect(screen.queryByText('There are units here already.')).toBeNull()
})
