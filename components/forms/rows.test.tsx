/** @jest-environment jsdom */
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { NumberField, TextField } from './fields'
import { Rows } from './rows'

afterEach(cleanup)
interface Price {
  from: string
  costs: number | null
}
let heard: { rows: Price[]; gone: number | null }[] = []
beforeEach(() => {
  heard = []
})

function Prices({ begin, least = 0, most = 9 }: { begin: Price[]; least?: number; most?: number }) {
  const [rows, setRows] = useState(begin)
  return (
    <Rows
      rows={rows}
      columns="x"
      least={least}
      most={most}
      another="Another price"
      fresh={() => ({ from: 'new', costs: null })}
      onChange={(to, gone) => {
        heard.push({ rows: to, gone })
        setRows(to)
      }}
    >
      {(row, put) => (
        <>
          <TextField label="From" value={row.from} onChange={(from) => put({ from })} />
          <NumberField label="Costs" value={row.costs} onChange={(costs) => put({ costs })} />
        </>
      )}
    </Rows>
  )
}
const three: Price[] = ['a', 'b', 'c'].map((from, i) => ({ from, costs: i }))
const froms = () => screen.getAllByLabelText('From').map((f) => (f as HTMLInputElement).value)
const costs = () => screen.getAllByLabelText('Costs').map((f) => (f as HTMLInputElement).value)
const takeOff = (i: number) => fireEvent.click(screen.getAllByRole('button', { name: 'Take it off' })[i] as HTMLElement)

test('a field changes its own row and no other', () => {
  render(<Prices begin={three} />)
  fireEvent.change(screen.getAllByLabelText('From')[1] as HTMLElement, { target: { value: 'B' } })
  expect(heard.at(-1)).toEqual({
    rows: [
      { from: 'a', costs: 0 },
      { from: 'B', costs: 1 },
      { from: 'c', costs: 2 },
    ],
    gone: null,
  })
})
test('one that is taken off is named; what is half typed in the others stays theirs', () => {
  render(<Prices begin={three} />)
  fireEvent.change(screen.getAllByLabelText('Costs')[2] as HTMLElement, { target: { value: '0,2x' } })
  takeOff(0)
  expect(heard.at(-1)?.gone).toBe(0)
  expect(froms()).toEqual(['b', 'c'])
  expect(costs()).toEqual(['1', '0,2x'])
})
test('another one comes at the end with fields of its own, also after one was taken off', () => {
  render(<Prices begin={three} />)
  takeOff(2)
  fireEvent.click(screen.getByRole('button', { name: 'Another price' }))
  expect(froms()).toEqual(['a', 'b', 'new'])
  fireEvent.change(screen.getAllByLabelText('Costs')[2] as HTMLElement, { target: { value: 'no number' } })
  fireEvent.click(screen.getByRole('button', { name: 'Another price' }))
  expect(costs()).toEqual(['0', '1', 'no number', ''])
})
test('the last ones stay, and there are never too many', () => {
  render(<Prices begin={three.slice(0, 1)} least={1} most={1} />)
  expect((screen.getByRole('button', { name: 'Take it off' }) as HTMLButtonElement).disabled).toBe(true)
  expect((screen.getByRole('button', { name: 'Another price' }) as HTMLButtonElement).disabled).toBe(true)
})
