/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { FirstJoin } from './beats'

beforeEach(() => jest.useFakeTimers())
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

const four = { by: 'presses' as const, presses: 4, withinS: 3, light: 'flickers' }
const hold = { by: 'hold' as const, holdS: 6, wipesAfterS: 20, light: '' }
const show = (setup: typeof four | typeof hold | null) =>
  render(<FirstJoin setup={setup} firmware="Plainsong" setupAddress="192.168.4.1" />)
const key = () => screen.getAllByRole('button')[0] as HTMLButtonElement
const wait = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms))
async function press(times: number): Promise<void> {
  for (let i = 0; i < times; i++) {
    fireEvent.keyDown(key(), { key: ' ' })
    await wait(200)
  }
}

describe('presses counted along', () => {
  test('as many as are wanted, then rest: right, with what the light does', async () => {
    show(four)
    await press(4)
    expect(screen.getByText('That is enough: no more.')).toBeTruthy()
    await wait(2500)
    expect(screen.getByText('Counted right. Its light flickers.')).toBeTruthy()
  })
  test('one too many: so long nothing is touched, then it may be begun again', async () => {
    show(four)
    await press(5)
    expect(screen.getByText(/^5 presses: one too many/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Begin again' })).toBeNull()
    await wait(11_000)
    fireEvent.click(screen.getByRole('button', { name: 'Begin again' }))
    expect(key().textContent).toContain('Press along')
  })
  test('too slow is said when the time is over; a held key is one press', async () => {
    show(four)
    fireEvent.keyDown(key(), { key: ' ' })
    for (let i = 0; i < 5; i++) fireEvent.keyDown(key(), { key: ' ', repeat: true })
    expect(key().textContent).toContain('1 of 4')
    await wait(3500)
    expect(screen.getByText(/^Too slow/)).toBeTruthy()
  })
})

describe('a hold counted along', () => {
  test.each<[number, RegExp]>([
    [2000, /^Too short/],
    [7000, /^Held right\. Nobody has written down what its light does/],
    [21_000, /forgotten its settings/],
  ])('let go after %d ms', async (ms, said) => {
    show(hold)
    fireEvent.pointerDown(key())
    await wait(ms)
    fireEvent.pointerUp(key())
    await wait(200)
    expect(screen.getByText(said)).toBeTruthy()
  })
  test('before it forgets everything it is told to let go', async () => {
    show(hold)
    fireEvent.pointerDown(key())
    await wait(6500)
    expect(screen.getByText('Let go now.')).toBeTruthy()
    await wait(8000)
    expect(screen.getByText(/^Let go: soon it forgets/)).toBeTruthy()
  })
})

test('a firmware whose button nobody described says where that goes, and the way by its page stands there all the same', () => {
  show(null)
  expect(screen.getByText(/How the button of Plainsong opens its setup is not written down/)).toBeTruthy()
  expect(screen.getByText('192.168.4.1')).toBeTruthy()
})
