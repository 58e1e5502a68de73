/** @jest-environment jsdom */
import type { Mapping } from '@fresh-coat/core/live/mapping'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { openFolds } from '@/components/testing/folds'
import { AirForm } from './air-form'

afterEach(cleanup)
let heard: (Mapping | null)[] = []
beforeEach(() => {
  heard = []
})
function Form({ begin }: { begin: Mapping | null }) {
  const [air, setAir] = useState(begin)
  return (
    <AirForm
      air={air}
      onChange={(to) => {
        heard.push(to)
        setAir(to)
      }}
    />
  )
}
const mapping = (rule: Partial<Mapping['rules'][number]>): Mapping => ({
  rules: [{ pattern: 'shed/{unit}/{n:int}', fields: [{ to: 'channel/{n}/on', ptr: '/out' }], ...rule }],
  will: true,
  usualS: 60,
})
const field = (label: string, i = 0) => screen.getAllByLabelText(label)[i] as HTMLInputElement
const type = (label: string, value: string) => fireEvent.change(field(label), { target: { value } })
/** As fingers do it: one sign after the other. */
const spell = (label: string, text: string) => {
  for (let n = 1; n <= text.length; n++) type(label, text.slice(0, n))
}
const press = (name: string, i = 0) => fireEvent.click(screen.getAllByRole('button', { name })[i] as HTMLElement)
const said = () => screen.getByRole('status').textContent ?? ''

test('values are typed sign by sign, commas too; numbers and truths are such, the rest is text', () => {
  render(<Form begin={mapping({})} />)
  openFolds()
  fireEvent.click(screen.getByLabelText('on or off'))
  spell('means on', 'ON, 1, true')
  spell('means off', 'OFF,0')
  expect(field('means on').value).toBe('ON, 1, true')
  expect(heard.at(-1)?.rules[0]?.fields[0]).toMatchObject({ true: ['ON', 1, true], false: ['OFF', 0] })
})
test('a topic is tried as it is typed: what its pattern takes from it, and what its payload says', () => {
  render(<Form begin={mapping({ fields: [{ to: 'channel/{n}/on', ptr: '/out', true: ['ON'], false: ['OFF'] }] })} />)
  openFolds()
  type('Try a topic', 'shed/lamp/2')
  expect(said()).toContain('unit is lamp, n is 2')
  type('and what came there', '{"out":"ON"}')
  expect(said()).toContain('It says channel/2/on true.')
  type('and what came there', '{"out":"MAYBE"}')
  expect(said()).toContain('1 fit no rule')
  type('and what came there', '{"out":')
  expect(said()).toContain('The payload cannot be read.')
  type('Try a topic', 'barn/lamp/2')
  expect(said()).toContain('This topic is another one.')
})
test('what is subscribed to is said; a pattern that cannot be one, or names no unit, is subscribed to as nothing', () => {
  render(<Form begin={mapping({})} />)
  openFolds()
  expect(said()).toContain('Subscribed to as shed/+/+')
  type('Topics like', 'shed/#')
  expect(screen.queryByText(/Subscribed to as/)).toBeNull()
  type('Topics like', '{all...}')
  expect(screen.queryByText(/Subscribed to as/)).toBeNull()
  expect(screen.getByText('It says with {unit} whose topic it is.')).toBeTruthy()
})
test('the last kind of topics taken off leaves the topics of the site', () => {
  render(<Form begin={mapping({ fields: [] })} />)
  openFolds()
  press('Take it off')
  expect(heard.at(-1)).toBeNull()
})
test('how many times a reading is, is left away when nobody says so', () => {
  render(<Form begin={mapping({ fields: [{ to: 'P', ptr: '/w' }] })} />)
  openFolds()
  type('times', '0.1')
  expect(heard.at(-1)?.rules[0]?.fields).toEqual([{ to: 'P', ptr: '/w', scale: 0.1 }])
  type('times', '')
  expect(heard.at(-1)?.rules[0]?.fields).toEqual([{ to: 'P', ptr: '/w' }])
})
test('what was on or off and is no more loses its words', () => {
  render(<Form begin={mapping({ fields: [{ to: 'x', ptr: '', true: ['ON'], false: ['OFF'] }] })} />)
  openFolds()
  fireEvent.click(screen.getByLabelText('on or off'))
  expect(heard.at(-1)?.rules[0]?.fields).toEqual([{ to: 'x', ptr: '' }])
})
