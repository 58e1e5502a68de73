/** @jest-environment jsdom */
import { ConsoleWords } from '@fresh-coat/core/link/questions'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { ConsoleWordsForm } from './console-words-form'

afterEach(cleanup)
let heard: (ConsoleWords | null)[] = []
beforeEach(() => {
  heard = []
})
function Form({ begin }: { begin: ConsoleWords | null }) {
  const [words, setWords] = useState(begin)
  return (
    <ConsoleWordsForm
      words={words}
      onChange={(to) => {
        heard.push(to)
        setWords(to)
      }}
    />
  )
}
const spell = (label: string | RegExp, text: string) => {
  for (let n = 1; n <= text.length; n++)
    fireEvent.change(screen.getByLabelText(label), { target: { value: text.slice(0, n) } })
}
const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }))

test('a question is added once, said in the firmware’s words and taken out again', () => {
  render(<Form begin={null} />)
  press('Relay on')
  expect(screen.queryByRole('button', { name: 'Relay on' })).toBeNull()
  fireEvent.change(screen.getByLabelText('Relay on is said as'), { target: { value: 'switch {n:int} up' } })
  expect(heard.at(-1)?.questions).toEqual([{ what: 'relay-on', say: 'switch {n:int} up', answers: [], withinMs: 3000 }])
  press('Take this one out')
  expect(heard.at(-1)?.questions).toEqual([])
  expect(screen.getByRole('button', { name: 'Relay on' })).toBeTruthy()
})
test('several answers are typed line by line, and an empty line is none', () => {
  render(<Form begin={null} />)
  press('How is it?')
  spell('Lines that answer it', 'all is {state}\n\nup {s:int}\n')
  expect((screen.getByLabelText('Lines that answer it') as HTMLTextAreaElement).value).toBe(
    'all is {state}\n\nup {s:int}\n',
  )
  expect(heard.at(-1)?.questions[0]?.answers).toEqual(['all is {state}', 'up {s:int}'])
})
test('a line whose braces do not close is said where it is typed', () => {
  render(<Form begin={null} />)
  press('Which version?')
  spell('Lines that answer it', 'I am {version')
  expect(document.querySelector('.text-oxide')?.textContent).toBeTruthy()
  spell('Lines that answer it', 'I am {version}')
  expect(document.querySelector('.text-oxide')).toBeNull()
})
test('what it names its access point with is one line, or none', () => {
  render(<Form begin={ConsoleWords.parse({ accessPoint: ['my air: {name}'] })} />)
  fireEvent.change(screen.getByLabelText('Line that names its access point'), { target: { value: ' ' } })
  expect(heard.at(-1)?.accessPoint).toEqual([])
})
