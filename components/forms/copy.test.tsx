/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { copyByHand, copyText } from './copy'
import { CopyText } from './copy-text'

/** What a browser gives: a clipboard, its refusal, or none at all over plain http; and whether a press may copy. */
function browser(write: ((text: string) => Promise<void>) | null, pressCopies: boolean) {
  Object.defineProperty(navigator, 'clipboard', { configurable: true, value: write ? { writeText: write } : undefined })
  const held: string[] = []
  document.execCommand = () => {
    if (!pressCopies) return false
    const e = new Event('copy', { cancelable: true })
    Object.assign(e, { clipboardData: { setData: (_: string, text: string) => held.push(text) } })
    document.dispatchEvent(e)
    return true
  }
  return held
}
afterEach(cleanup)

test('a browser that has a clipboard gets all of it', async () => {
  const held: string[] = []
  const pressed = browser(async (text) => void held.push(text), true)
  expect(await copyText('a\nb')).toBe(true)
  expect([held, pressed]).toEqual([['a\nb'], []])
})

test.each([
  ['has none, over plain http', null],
  ['refuses it', () => Promise.reject(new Error('not allowed'))],
])('where the browser %s, the press fills the copy itself, once', async (_, write) => {
  const held = browser(write, true)
  expect(await copyText('for the router')).toBe(true)
  document.dispatchEvent(new Event('copy'))
  expect(held).toEqual(['for the router'])
})

test('where nothing copies it is said, and never called copied', async () => {
  browser(null, false)
  render(<CopyText text="one line" />)
  await act(async () => fireEvent.click(screen.getByRole('button', { name: 'Copy all of it' })))
  expect(screen.getByRole('alert').textContent).toBe(copyByHand)
  expect(screen.queryByText('Copied')).toBeNull()
})

test('of a very long text the beginning stands there, and all of it is copied; another text is not copied yet', async () => {
  const held: string[] = []
  browser(async (text) => void held.push(text), true)
  const text = Array.from({ length: 1000 }, (_, i) => `line ${i}`).join('\n')
  const { rerender } = render(<CopyText text={text} />)
  expect(screen.getByText(/^line 0/).textContent?.split('\n')).toHaveLength(300)
  expect(screen.getByText(/and 700 more lines/)).toBeTruthy()
  await act(async () => fireEvent.click(screen.getByRole('button')))
  expect(held).toEqual([text])
  expect(screen.getByRole('button').textContent).toBe('Copied')
  rerender(<CopyText text={`${text}\nmore`} />)
  expect(screen.getByRole('button').textContent).toBe('Copy all of it')
})
