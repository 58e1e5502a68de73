/** @jest-environment jsdom */
import { readSum, sumKinds, workSum } from '@fresh-coat/core/calculators/sums'
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { Sums } from './sums'

afterEach(cleanup)
const line = () => screen.getByLabelText('The sum') as HTMLInputElement

describe('a sum that is typed', () => {
  test.each(sumKinds.map((k) => [k.name, k.example]))('%s: its example is worked out as core does', (name, example) => {
    render(<Sums begun="" />)
    fireEvent.click(within(screen.getByRole('list', { name: 'What can be worked out' })).getByText(name))
    expect(line().value).toBe(example)
    const read = readSum(example)
    const result = read && workSum(read)
    if (!result || typeof result === 'string') throw new Error(`no result: ${result}`)
    expect(screen.getByText(result.answer)).toBeTruthy()
  })
  test('stands in the address, so that a reload and a link show it', () => {
    render(<Sums begun="3.3 led" />)
    expect(window.location.search).toBe(`?q=${encodeURIComponent('3.3 led')}`)
    fireEvent.change(line(), { target: { value: '' } })
    expect(window.location.search).toBe('')
    expect(screen.getByText('Type a sum, or take one below')).toBeTruthy()
  })
  test('without a word that names a sum says so, and no number is made up', () => {
    render(<Sums begun="forty two" />)
    expect(screen.getByText('No word of this names a sum')).toBeTruthy()
    expect(document.querySelector('dl')).toBeNull()
  })
  test('a number that is changed is in the line', () => {
    const [kind] = sumKinds
    render(<Sums begun={kind?.example ?? ''} />)
    const [field] = kind?.fields ?? []
    const input = screen.getByLabelText(new RegExp(`^${field?.label}`)) as HTMLInputElement
    const before = line().value
    fireEvent.change(input, { target: { value: String(Number(input.value || '1') * 2) } })
    expect(line().value).not.toBe(before)
    expect(readSum(line().value)?.values[field?.id ?? '']).toBe(Number(input.value))
  })
})
