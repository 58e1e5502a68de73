/** @jest-environment jsdom */
import { contactsOf, readEdge } from '@fresh-coat/core/module/map'
import { planTwoRows } from '@fresh-coat/core/wiring/two-rows'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { ContactMap } from './contact-map'
import { TwoRowsDrawing } from './two-rows-drawing'

afterEach(cleanup)
const adapter = ['GND', 'TX', 'RX', '3V3']
const rows = [
  ['GND', 'UNKNOWN', 'RX', 'TX'],
  ['UNKNOWN', '3V3', 'UNKNOWN', 'UNKNOWN'],
] as [PadRole[], PadRole[]]
function drawn(side: 'parts' | 'solder', needed: PadRole[], socket = false) {
  const out = planTwoRows({ adapter: { pins: adapter, labelledFrom: 'adapter' }, rows, gap: 6, needed })
  if (!out.ok) throw new Error('no plan')
  const { container } = render(
    <TwoRowsDrawing
      plan={out.value}
      rows={rows}
      adapter={adapter}
      side={side}
      pitchPads={2}
      pitchAdapter={2.54}
      socket={socket}
      print
    />,
  )
  return container
}
const firstPin = (c: HTMLElement) => Number(c.querySelectorAll('rect')[1]?.getAttribute('x'))
const bench: PadRole[] = ['GND', 'TX', 'RX']

test('pin 1 is the square one: left from the parts side, right from the solder side, to the millimetre', () => {
  const parts = drawn('parts', bench)
  const [width] = /^[\d.]+/.exec(parts.querySelector('svg')?.getAttribute('width') ?? '') ?? []
  const left = firstPin(parts)
  cleanup()
  const right = firstPin(drawn('solder', bench))
  expect(left + 0.9).toBeCloseTo(4, 6)
  expect(right + 0.9).toBeCloseTo(Number(width) - 4, 6)
})

test('as a jig every wire of the adapter is a line; as a plug none is', () => {
  expect(drawn('solder', bench, true).querySelectorAll('line')).toHaveLength(3)
  cleanup()
  expect(drawn('solder', bench).querySelectorAll('line')).toHaveLength(0)
})

test('a supply from elsewhere has its pin all the same', () => {
  const fills = (c: HTMLElement) => [...c.querySelectorAll('circle, rect')].map((e) => e.getAttribute('fill'))
  const blank = (c: HTMLElement) => fills(c).filter((f) => f === 'var(--sheet)').length
  const fed = blank(drawn('parts', bench))
  cleanup()
  expect(blank(drawn('parts', [...bench, '3V3']))).toBe(fed)
})

test('a contact of a module is pressed by pointer and by key; a map that is only shown has nothing to press', () => {
  const contacts = contactsOf({
    edges: [
      { side: 'left', contacts: readEdge('GND, TX', 1) },
      { side: 'bottom', contacts: readEdge('?, NC', 3) },
    ],
  }).map((c) => ({ ...c, sure: c.n === 1 ? 0.98 : null, wrong: false, note: c.n === 1 ? 'beeps' : '' }))
  const chosen = jest.fn()
  const { rerender } = render(<ContactMap name="W8" contacts={contacts} onChoose={chosen} />)
  fireEvent.click(screen.getByRole('button', { name: 'contact 1: GND, 98 % by the meter' }))
  fireEvent.keyDown(screen.getByRole('button', { name: 'contact 3: not known' }), { key: 'Enter' })
  expect(chosen.mock.calls).toEqual([[1], [3]])
  expect(screen.getByText('beeps')).toBeTruthy()
  rerender(<ContactMap name="W8" contacts={contacts} />)
  expect(screen.queryAllByRole('button')).toEqual([])
  expect(screen.getByRole('img', { name: /contact 2: TX/ })).toBeTruthy()
})
