/** @jest-environment jsdom */
import { act, cleanup, fireEvent } from '@testing-library/react'
import { useState } from 'react'
import { hydrateRoot, type Root } from 'react-dom/client'
import { renderToString } from 'react-dom/server'
import { Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { TypedBefore } from './typed-before'

/** What a form makes of its fields, as text. */
function Form() {
  const [v, setV] = useState({
    number: 25 as number | null,
    name: '',
    words: '',
    board: null as string | null,
    dry: false,
    side: 'left' as string,
    times: 0,
  })
  const set = (change: Partial<typeof v>) => setV((now) => ({ ...now, ...change, times: now.times + 1 }))
  return (
    <>
      <NumberField label="Number" value={v.number} onChange={(number) => set({ number })} />
      <TextField label="Name" value={v.name} onChange={(name) => set({ name })} />
      <textarea aria-label="Words" value={v.words} onChange={(e) => set({ words: e.target.value })} />
      <SelectField
        label="Board"
        value={v.board}
        none="Nobody knows"
        options={[{ value: 'p1', label: 'P1' }]}
        onChange={(board) => set({ board })}
      />
      <Tick label="Dry" checked={v.dry} onChange={(dry) => set({ dry })} />
      <Choice
        label="Side"
        value={v.side}
        options={[
          { value: 'left', label: 'Left' },
          { value: 'right', label: 'Right' },
        ]}
        onChange={(side) => set({ side })}
      />
      <output>{JSON.stringify(v)}</output>
    </>
  )
}
const page = (
  <>
    <Form />
    <TypedBefore />
  </>
)

beforeAll(() => {
  jest.useFakeTimers()
})
let root: Root | null = null
afterEach(() => {
  act(() => root?.unmount())
  cleanup()
  document.body.innerHTML = ''
})
/** The page as it comes, what a hand does to it before its scripts are there, and what the form knows afterwards. */
async function knows(hand: () => void): Promise<unknown> {
  const place = document.createElement('div')
  document.body.append(place)
  place.innerHTML = renderToString(page)
  hand()
  await act(async () => {
    root = hydrateRoot(place, page)
  })
  // As in a browser, where every event is dealt with before the next one is told.
  const world = globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }
  world.IS_REACT_ACT_ENVIRONMENT = false
  jest.advanceTimersByTime(1)
  world.IS_REACT_ACT_ENVIRONMENT = true
  return JSON.parse(document.querySelector('output')?.textContent ?? '')
}
const input = (at: number) => document.querySelectorAll('input')[at] as HTMLInputElement
const untouched = { number: 25, name: '', words: '', board: null, dry: false, side: 'left', times: 0 }

test('what stands in every field when the page comes to life is what the form knows', async () => {
  expect(
    await knows(() => {
      input(0).value = '17'
      input(1).value = 'A lamp'
      ;(document.querySelector('textarea') as HTMLTextAreaElement).value = 'two\nlines'
      ;(document.querySelector('select') as HTMLSelectElement).value = 'p1'
      input(2).checked = true
      input(4).checked = true
    }),
  ).toEqual({ number: 17, name: 'A lamp', words: 'two\nlines', board: 'p1', dry: true, side: 'right', times: 6 })
  expect([input(0).value, input(1).value, input(2).checked, input(3).checked, input(4).checked]).toEqual([
    '17',
    'A lamp',
    true,
    false,
    true,
  ])
})

test('a page that nobody touched says nothing', async () => expect(await knows(() => {})).toEqual(untouched))

test('a field that was emptied is empty, and the caret stays where it was', async () => {
  expect(
    await knows(() => {
      input(0).value = ''
      input(1).value = 'A lamp'
      input(1).focus()
      input(1).setSelectionRange(2, 2)
    }),
  ).toEqual({ ...untouched, number: null, name: 'A lamp', times: 2 })
  expect([document.activeElement, input(1).selectionStart]).toEqual([input(1), 2])
})

test('typing goes on from there', async () => {
  await knows(() => {
    input(1).value = 'A la'
  })
  fireEvent.change(input(1), { target: { value: 'A lamp' } })
  expect(JSON.parse(document.querySelector('output')?.textContent ?? '').name).toBe('A lamp')
})
