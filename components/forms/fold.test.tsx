/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { hydrateRoot } from 'react-dom/client'
import { renderToString } from 'react-dom/server'
import { Fold } from './fold'

afterEach(cleanup)
const part = () => document.querySelector('details') as HTMLDetailsElement
const turn = (open: boolean) => {
  part().open = open
  fireEvent(part(), new Event('toggle'))
}
const inside = () => screen.queryByLabelText('Name') as HTMLInputElement | null

test('what is inside is made when it is opened first, and what is typed there stays when it is folded and opened again', () => {
  const opened = jest.fn()
  render(
    <Fold summary="Add one" opened={opened}>
      <input aria-label="Name" defaultValue="" />
    </Fold>,
  )
  expect(inside()).toBeNull()
  turn(true)
  fireEvent.change(inside() as HTMLInputElement, { target: { value: 'lamp' } })
  turn(false)
  expect(inside()?.value).toBe('lamp')
  turn(true)
  expect(inside()?.value).toBe('lamp')
  expect(opened).toHaveBeenCalledTimes(2)
})

test('one that starts open is there at once', () => {
  render(
    <Fold summary="Add one" startOpen>
      <input aria-label="Name" />
    </Fold>,
  )
  expect([part().open, inside() !== null]).toEqual([true, true])
})

test('opened by hand before the page had come to life, it is open and full when it has', async () => {
  const opened = jest.fn()
  const fold = (
    <Fold summary="Add one" opened={opened}>
      <input aria-label="Name" />
    </Fold>
  )
  const place = document.createElement('div')
  document.body.append(place)
  place.innerHTML = renderToString(fold)
  expect(inside()).toBeNull()
  part().open = true
  const root = await act(async () => hydrateRoot(place, fold))
  expect([part().open, inside() !== null]).toEqual([true, true])
  // What is long is fetched then too.
  expect(opened).toHaveBeenCalledTimes(1)
  await act(async () => root.unmount())
  place.remove()
})
