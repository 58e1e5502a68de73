/** @jest-environment jsdom */
import { unit } from '@fresh-coat/core/testing/a-unit'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { send } from '@/components/send'
import { openFolds } from '@/components/testing/folds'
import { GivenUp, GiveUp } from './give-up'

jest.mock('@/components/send', () => ({
  ...jest.requireActual('@/components/send'),
  send: jest.fn(async () => ({ state: 'ok', value: {} })),
}))
jest.mock('@/components/frame/use-refresh', () => ({ useRefresh: () => jest.fn() }))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
afterEach(cleanup)

const submit = () => screen.getByRole('button', { name: 'Give it up' }) as HTMLButtonElement

test('a death wants its cause, other hands want it wiped, and only then it may be said', async () => {
  render(<GiveUp view={unit()} />)
  openFolds()
  expect(submit().disabled).toBe(true)
  fireEvent.change(screen.getByLabelText('What it died of'), { target: { value: 'fell into the pit' } })
  expect(submit().disabled).toBe(false)
  fireEvent.click(screen.getByRole('radio', { name: 'Given away' }))
  expect(submit().disabled).toBe(true)
  fireEvent.click(screen.getByRole('checkbox', { name: /It is wiped/ }))
  await act(async () => fireEvent.click(submit()))
  expect(send).toHaveBeenCalledWith('give-up', {
    unitId: unit().id,
    how: 'given-away',
    why: 'fell into the pit',
    wiped: true,
  })
})

test('one that is given up already is not given up again, and says how it ended and the way back', () => {
  const again = jest.fn()
  const ended = { how: 'put-away' as const, on: '2026-11-12', why: 'no winter shows' }
  const { container } = render(<GiveUp view={unit({}, { ended })} />)
  expect(container.innerHTML).toBe('')
  render(<GivenUp ended={ended} again={again} />)
  expect(screen.getByRole('heading').textContent).toBe('Put away on 12 Nov 2026: no winter shows.')
  fireEvent.click(screen.getByRole('button', { name: 'Take it up again' }))
  expect(again).toHaveBeenCalledTimes(1)
})
