/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { noWorld, press } from '@/components/testing/on-the-bench'
import { makeVirtualBoard } from '@/standins/virtual-board'
import { PadHunt } from './pad-hunt'
import { PlugHunt } from './plug-hunt'
import { Rehearsal } from './rehearsal'

const sent: [string, Record<string, unknown>][] = []
let answer: object = { state: 'ok', value: {} }
jest.mock('@/components/send', () => ({
  ...jest.requireActual('@/components/send'),
  send: async (command: string, input: Record<string, unknown>) => {
    sent.push([command, input])
    return answer
  },
}))
jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
beforeEach(() => {
  noWorld()
  sent.length = 0
  answer = { state: 'ok', value: {} }
})
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

const seed = 12
const probes = () => [...document.querySelectorAll<HTMLButtonElement>('[data-cell]')].filter((b) => !b.disabled)
const probeAll = async () => {
  for (const cell of probes()) await act(async () => void fireEvent.click(cell))
}

describe('pads of a virtual board', () => {
  test('each probe costs its minutes once, and what was read stays', async () => {
    render(<PadHunt first={seed} />)
    const minutes = () => Number(/([\d.]+) min/.exec(document.body.textContent ?? '')?.[1])
    expect(minutes()).toBe(0)
    const [first] = probes()
    await act(async () => void fireEvent.click(first as Element))
    const spent = minutes()
    expect(spent).toBeGreaterThan(0)
    await act(async () => void fireEvent.click(first as Element))
    expect(minutes()).toBe(spent)
  })
  test('a row that was measured through is all right; a role that was said wrong is not, and which it was is told', async () => {
    const board = makeVirtualBoard(seed)
    render(<PadHunt first={seed} />)
    await probeAll()
    const gnd = board.roles.indexOf('GND')
    await act(
      async () => void fireEvent.change(screen.getByLabelText(`Pad ${gnd + 1} is`), { target: { value: '3V3' } }),
    )
    await press('That is the row')
    expect(screen.getByText(/\d wrong/)).toBeTruthy()
    expect(screen.getByText(new RegExp(`ad ${gnd + 1} is GND`))).toBeTruthy()
    expect(sent).toEqual([['keep-practice', expect.objectContaining({ kind: 'pad hunt', family: board.family })]])
  })
  test('a score that could not be kept is said, and kept at the next press', async () => {
    answer = { state: 'away' }
    render(<PadHunt first={seed} />)
    await press('That is the row')
    expect(screen.getByRole('alert').textContent).toMatch(/could not be kept\. The server does not answer/)
    answer = { state: 'ok', value: {} }
    await press('Keep it now')
    expect(screen.queryByRole('alert')).toBeNull()
    expect(sent).toHaveLength(2)
    expect(sent[1]).toEqual(sent[0])
  })
  test('another board begins with nothing read and nothing waiting', async () => {
    answer = { state: 'away' }
    render(<PadHunt first={seed} />)
    await probeAll()
    await press('That is the row')
    await press('Another board')
    expect(screen.queryByRole('alert')).toBeNull()
    expect(screen.getByText('0.0 min')).toBeTruthy()
    expect(probes().length).toBeGreaterThan(0)
  })
})

describe('hands on the virtual bench', () => {
  const key = (type: 'keyDown' | 'keyUp', k: string, more: object = {}) =>
    act(async () => void fireEvent[type](window, { key: k, ...more }))
  const held = (name: RegExp) => screen.getByRole('button', { name }).getAttribute('aria-pressed') === 'true'

  test('a held key holds, its repeats are no second press, and letting go frees it', async () => {
    render(<Rehearsal best={[]} />)
    await key('keyDown', 'b')
    await key('keyDown', 'b', { repeat: true })
    expect(held(/^BOOT button/)).toBe(true)
    await key('keyUp', 'b')
    expect(held(/^BOOT button/)).toBe(false)
  })
  test('what is held is let go with another key pressed by then, and when the page is left', async () => {
    render(<Rehearsal best={[]} />)
    await key('keyDown', 'b')
    await key('keyUp', 'b', { ctrlKey: true })
    expect(held(/^BOOT button/)).toBe(false)
    await key('keyDown', 'r')
    await act(async () => void fireEvent.blur(window))
    expect(held(/^Reset to GND/)).toBe(false)
  })
  test('the strap held through the start comes into download mode, and the score is kept once', async () => {
    jest.useFakeTimers({ now: 0 })
    const wait = (ms: number) => act(async () => void jest.advanceTimersByTime(ms))
    render(<Rehearsal best={[]} />)
    await key('keyDown', 'b')
    await wait(400)
    await key('keyDown', 'p')
    await wait(900)
    await key('keyUp', 'b')
    await wait(400)
    await key('keyDown', 'Enter')
    expect(screen.getByText('in download mode')).toBeTruthy()
    expect(sent).toHaveLength(1)
    expect(sent[0]?.[1]).toMatchObject({ kind: 'rehearsal', family: 'LX106' })
    // Nothing moves after it was judged; Enter begins anew.
    await key('keyDown', 'p')
    expect(sent).toHaveLength(1)
    await key('keyDown', 'Enter')
    expect(screen.queryByText('in download mode')).toBeNull()
  })
  test('without the strap it runs its firmware, which was not what was wanted', async () => {
    jest.useFakeTimers({ now: 0 })
    render(<Rehearsal best={[]} />)
    await key('keyDown', 'p')
    await act(async () => void jest.advanceTimersByTime(900))
    await key('keyDown', 'Enter')
    expect(within(screen.getByRole('region', { name: 'Judgement' })).getByText('runs its firmware')).toBeTruthy()
    expect(screen.queryByText(/^Clean/)).toBeNull()
  })
})

test('of a virtual plug nothing is taken before something is plugged in', () => {
  render(<PlugHunt first={3} />)
  expect((screen.getByRole('button', { name: 'Take both now' }) as HTMLButtonElement).disabled).toBe(true)
  expect(screen.queryByRole('button', { name: 'This is it' })).toBeNull()
})
