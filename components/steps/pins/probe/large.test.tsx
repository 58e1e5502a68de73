/** @jest-environment jsdom */
import { act, fireEvent, render, screen } from '@testing-library/react'
import { LargeTrial } from './large'

beforeEach(() => {
  jest.useFakeTimers()
})
afterEach(() => {
  jest.useRealTimers()
})

const labels = ['It clicked', 'The light is on', 'Nothing', 'It went dark or restarted']
function shown(ask = 'GPIO4 is on') {
  const picked: string[] = []
  const answers = labels.map((label) => ({ label, pick: () => picked.push(label) }))
  const view = (question: string) => (
    <LargeTrial ask={question} how="Look." answers={answers} open={true} onOpenChange={() => {}} />
  )
  const { rerender } = render(view(ask))
  return { picked, next: (question: string) => rerender(view(question)) }
}
const pedal = (times: number, key = ' ') => {
  for (let i = 0; i < times; i++) fireEvent.keyDown(screen.getByRole('dialog'), { key })
}
const quiet = (ms = 1200) => act(() => jest.advanceTimersByTime(ms))

test('once is nothing, twice the first sign; it counts when the foot has rested, not before', () => {
  const { picked } = shown()
  pedal(1)
  quiet(900)
  expect(picked).toEqual([])
  quiet(300)
  pedal(2, 'PageDown')
  quiet()
  pedal(4)
  quiet()
  expect(picked).toEqual(['Nothing', 'It clicked', 'It went dark or restarted'])
})

test('a digit answers at once, and a count that was begun is forgotten; a held key counts once', () => {
  const { picked } = shown()
  pedal(1)
  fireEvent.keyDown(screen.getByRole('dialog'), { key: ' ', repeat: true })
  fireEvent.keyDown(screen.getByRole('dialog'), { key: '2' })
  quiet()
  expect(picked).toEqual(['The light is on'])
})

test('presses for one trial never answer the next', () => {
  const { picked, next } = shown()
  pedal(2)
  next('Everything is off')
  quiet()
  expect(picked).toEqual([])
})

test('one press more than there are answers begins anew; Backspace counts none', () => {
  const { picked } = shown()
  pedal(5)
  quiet()
  pedal(3)
  fireEvent.keyDown(screen.getByRole('dialog'), { key: 'Backspace' })
  quiet()
  expect(picked).toEqual(['Nothing'])
})
