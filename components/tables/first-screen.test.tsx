/** @jest-environment jsdom */
import { act, cleanup } from '@testing-library/react'
import { hydrateRoot } from 'react-dom/client'
import { renderToString } from 'react-dom/server'
import { useFirstScreen } from './first-screen'

const List = ({ rows }: { rows: number }) => <p>{useFirstScreen(rows, 3)}</p>
afterEach(cleanup)

test.each([
  [10, '3', '10'],
  [3, '3', '3'],
  [2, '2', '2'],
  [0, '0', '0'],
])('of %i rows the server draws %s, the page that lives %s', async (rows, first, all) => {
  const place = document.createElement('div')
  place.innerHTML = renderToString(<List rows={rows} />)
  expect(place.textContent).toBe(first)
  const said: unknown[] = []
  await act(async () => {
    hydrateRoot(place, <List rows={rows} />, { onRecoverableError: (error) => said.push(error) })
  })
  // What the server drew is what the page begins with: nothing is thrown away.
  expect([place.textContent, said]).toEqual([all, []])
})
