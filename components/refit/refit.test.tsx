/** @jest-environment jsdom */
import type { RefitRecord } from '@fresh-coat/core/refit/record'
import { unit } from '@fresh-coat/core/testing/a-unit'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { Questions } from '@/components/frame/card'
import { refitAt } from './refit'

afterEach(cleanup)

let kept: RefitRecord
/** The questions of a module that was put back, over a record of their own. */
function Bench({ start }: { start: RefitRecord }) {
  const [refit, setRefit] = useState(start)
  kept = refit
  const view = unit({ pads: { pads: ['3V3', 'GND', 'TX'] }, close: { refit } }, { route: 'module-off', board: null })
  const measured = refitAt(view, 'close', { data: { refit }, patch: (change) => setRefit(change.refit) })
  return measured && <Questions asks={measured.asks} rest={<p>all measured</p>} />
}
const open = (readings: RefitRecord['readings'] = {}) => render(<Bench start={{ readings, sure: [] }} />)
const asked = () => screen.getByRole('heading', { level: 2 }).textContent
const type = (text: string) =>
  act(async () => {
    fireEvent.change(screen.getByRole('textbox'), { target: { value: text } })
  })
const press = (name: RegExp) => act(async () => fireEvent.click(screen.getByRole('button', { name })))

test('a question stays while its reading is typed, even where a digit on the way looks a thousand times off', async () => {
  open()
  for (const text of ['0', '0.', '0.4', '0.41']) {
    await type(text)
    expect(asked()).toBe('3V3 to GND: how many ohms?')
  }
  await press(/^Next/)
  expect(asked()).toBe('0.41 Ω, or is it 410 Ω?')
  await press(/410 Ω/)
  expect([kept.readings.rail, asked()]).toEqual([410, '1 (3V3) and 2 (GND): how many ohms?'])
})

test('what was said to be as typed counts as typed, and its check is asked again until it is mended', async () => {
  open({ '1-2': 400, '2-3': null, 'C-1': 0.2, 'C-2': 0.2, 'C-3': 0.2, rail: 0.41 })
  await press(/as I typed it/)
  expect(kept).toMatchObject({ sure: ['rail'], readings: { rail: 0.41 } })
  expect(asked()).toBe('3V3 to GND: how many ohms?')
  await type('410')
  await press(/^Next/)
  // A new reading is asked about anew.
  expect(kept).toMatchObject({ sure: [], readings: { rail: 410 } })
  expect(screen.getByText('all measured')).toBeTruthy()
})

test('over range is a reading; an emptied field is none', async () => {
  open({ rail: 410, '1-2': 410 })
  await press(/Over range/)
  expect(kept.readings['2-3']).toBeNull()
  await type('5')
  await type('')
  expect(Object.hasOwn(kept.readings, '2-3')).toBe(false)
})

test('nothing is asked of a unit of which nothing was soldered', () => {
  const view = unit({ pads: { pads: ['3V3', 'GND'] } }, { route: 'wires-in-place' })
  expect(refitAt(view, 'close', { data: { refit: { readings: {}, sure: [] } }, patch: () => {} })).toBeNull()
})
