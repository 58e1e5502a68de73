/** @jest-environment jsdom */
import { stateWords } from '@fresh-coat/core/link/words'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import type { Desk } from './desk'
import { DeskCard, DeskEnd } from './desk-card'
import { DeskRail } from './desk-rail'
import { type DeskView, idleDesk } from './desk-store'
import { bridgeOf, setWay, wayNow, wayWords } from './way'

const at = (more: Partial<DeskView>): DeskView => ({ ...idleDesk, what: 'read', rate: 115_200, ...more })
function shown(view: DeskView) {
  const desk = { pause: jest.fn(), continue: jest.fn(), stop: jest.fn(), clear: jest.fn() }
  const goOn = jest.fn()
  render(<DeskCard desk={desk as unknown as Desk} view={view} entry={<p>Hold BOOT.</p>} goOn={goOn} />)
  return { desk, goOn }
}
const press = (name: RegExp) => fireEvent.click(screen.getByRole('button', { name }))
afterEach(cleanup)

test('while it is called, what the hands do stands there, and silence is no alarm', () => {
  const silence = {
    code: 'link-no-answer',
    severity: 'error',
    message: 'Nothing answered.',
    because: '',
    next: '',
    at: null,
  } as const
  shown(at({ phase: 'calling', heard: silence }))
  expect(screen.getByText('Hold BOOT.')).toBeTruthy()
  expect(screen.getByRole('status').textContent).toBe('Nothing has answered yet.')
})

test('what comes instead of an answer is said with what to do', () => {
  const program = {
    code: 'link-app-running',
    severity: 'error',
    message: 'It started its firmware.',
    because: '',
    next: 'Hold BOOT.',
    at: null,
  } as const
  shown(at({ phase: 'calling', heard: program }))
  expect(screen.getByRole('status').textContent).toMatch(/It started its firmware/)
})

test('a read says how far it is, how fast, and how long still; it can rest and end', async () => {
  const progress = { done: 524_288, total: 1_048_576, bytesPerSecond: 10_240, secondsLeft: 51.2 }
  const { desk } = shown(at({ phase: 'working', state: 'backing up', read: 1, progress }))
  expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('50')
  expect(screen.getByText(/10\.0 KiB\/s · 51 s to go/)).toBeTruthy()
  press(/^Pause/)
  press(/^Stop/)
  expect([desk.pause.mock.calls.length, desk.stop.mock.calls.length]).toEqual([1, 1])
})

test('a line that was lost says from where it goes on, and waits for a hand', async () => {
  const progress = { done: 0xa3000, total: 2 ** 20, bytesPerSecond: null, secondsLeft: null }
  const { goOn } = shown(at({ phase: 'lost', read: 2, progress }))
  expect(screen.getByText(/0xA3000/)).toBeTruthy()
  press(/Choose the port/)
  expect(goOn).toHaveBeenCalledTimes(1)
})

test.each(Object.keys(stateWords) as (keyof typeof stateWords)[])(
  '%s: the chip, what may be done, what a slip costs',
  (state) => {
    shown(at({ phase: 'working', state }))
    const { title, chip, may, slip } = stateWords[state]
    for (const words of [title, chip, may, slip]) expect(screen.getAllByText(words).length).toBeGreaterThan(0)
  },
)

test('how it ended stands with what was found; an end is put away by hand', async () => {
  const clear = jest.fn()
  const finding = {
    code: 'link-other-unit',
    severity: 'error',
    message: 'Another one.',
    because: '',
    next: '',
    at: null,
  } as const
  const view = at({ phase: 'over', ended: { words: 'Not read.', good: false }, findings: [finding] })
  render(<DeskEnd desk={{ clear } as unknown as Desk} view={view} />)
  expect(screen.getByText('It did not end well')).toBeTruthy()
  expect(screen.getByText('Another one.')).toBeTruthy()
  press(/Put this away/)
  expect(clear).toHaveBeenCalledTimes(1)
})

describe('how far it is, as stages', () => {
  const stages = (view: DeskView) => {
    render(<DeskRail view={view} />)
    return screen.getByRole('img').getAttribute('aria-label') ?? ''
  }
  test('a second read has the first behind it', () =>
    expect(stages(at({ phase: 'working', state: 'backing up', read: 2, flashBytes: 2 ** 20 }))).toMatch(
      /First read reached.*Second being done/,
    ))
  test('a write that was lost stops at its stage, and nothing after it is reached', () =>
    expect(stages(at({ what: 'write', phase: 'over', state: 'writing', ended: { words: '', good: false } }))).toMatch(
      /Line reached.*Write failed.*Proof not reached/,
    ))
})

describe('where the adapter hangs', () => {
  test.each([
    ['10.0.0.7:3333', '10.0.0.7', 3333],
    [' bench.lan:23 ', 'bench.lan', 23],
    ['[fe80::1]:2000', 'fe80::1', 2000],
  ])('%s', (text, host, port) => expect(bridgeOf(text)).toEqual({ kind: 'bridge', host, port }))
  test.each(['', '10.0.0.7', '10.0.0.7:', '10.0.0.7:0', '10.0.0.7:70000', 'a b:1', 'http://x'])('%s is none', (text) =>
    expect(bridgeOf(text)).toBeNull(),
  )
  test('is remembered, and what was kept by something else is the browser’s own', () => {
    setWay({ kind: 'bridge', host: 'bench', port: 23 })
    expect(wayWords(wayNow())).toBe('the bridge bench:23')
    for (const kept of ['{', '[]', '{"kind":"bridge"}', 'null']) {
      localStorage.setItem('fresh-coat:way', kept)
      expect(wayNow()).toEqual({ kind: 'browser' })
    }
  })
})
