/** @jest-environment jsdom */

import { foldAlike } from '@fresh-coat/core/edge/alike'
import { finding } from '@fresh-coat/core/edge/finding'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { Answers, type Ask, Questions, Standing } from './card'
import { type Frame, FrameContext, useKept } from './frame-context'
import { StepSheet } from './sheet'
import { Explained } from './terms'

afterEach(cleanup)

/** A small record behind three questions: a colour by answers, a name by a field, a note that nobody has to give. */
function Asked({ start = {} }: { start?: { colour?: string; name?: string; note?: string } }) {
  const [said, setSaid] = useState(start)
  const asks: Ask[] = [
    {
      id: 'name',
      name: 'Name',
      ask: 'What is it called?',
      said: said.name || null,
      field: (
        <input aria-label="Name" value={said.name ?? ''} onChange={(e) => setSaid({ ...said, name: e.target.value })} />
      ),
    },
    {
      id: 'colour',
      name: 'Colour',
      ask: 'Which colour?',
      said: said.colour ?? null,
      answers: ['plum', 'olive'].map((colour) => ({
        label: colour,
        pick: () => setSaid({ ...said, colour }),
        chosen: said.colour === colour,
      })),
    },
    {
      id: 'note',
      name: 'Note',
      ask: 'What else?',
      said: said.note ?? null,
      optional: true,
      field: <textarea aria-label="Note" />,
    },
  ]
  return <Questions asks={asks} rest={<p>All said.</p>} />
}
const heading = () => screen.queryByRole('heading')?.textContent

describe('questions one at a time', () => {
  test('the first open one is asked; what is typed does not make it jump away before Enter', () => {
    render(<Asked />)
    expect(heading()).toBe('What is it called?')
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Moon' } })
    expect(heading()).toBe('What is it called?')
    fireEvent.submit(screen.getByLabelText('Name').closest('form') as Element)
    expect(heading()).toBe('Which colour?')
    fireEvent.click(screen.getByRole('button', { name: /olive/ }))
    expect(screen.getByText('All said.')).toBeTruthy()
  })
  test('one that nobody can answer now is passed over, and comes again when nothing else is open', () => {
    render(<Asked />)
    fireEvent.submit(screen.getByLabelText('Name').closest('form') as Element)
    expect(heading()).toBe('Which colour?')
    fireEvent.click(screen.getByRole('button', { name: /plum/ }))
    expect(heading()).toBe('What is it called?')
  })
  test('what was said stands below and is said anew; what nobody has to say is offered', () => {
    render(<Asked start={{ name: 'Moon', colour: 'plum' }} />)
    const said = within(screen.getByRole('list', { name: 'Said so far' }))
    fireEvent.click(said.getByRole('button', { name: /Colour/ }))
    expect(screen.getByRole('button', { name: /plum/ }).getAttribute('aria-pressed')).toBe('true')
    fireEvent.click(screen.getByRole('button', { name: /olive/ }))
    expect(screen.getByRole('list', { name: 'Said so far' }).textContent).toContain('olive')
    fireEvent.click(screen.getByRole('button', { name: 'note' }))
    expect(heading()).toBe('What else?')
  })
})

/** A question of which several answers may be chosen, asked on request behind one that is open. */
function Several() {
  const [chosen, setChosen] = useState<string[]>([])
  const [all, setAll] = useState(false)
  const several: Ask = {
    id: 'several',
    name: 'Several',
    ask: 'Which of them?',
    said: all ? chosen.join(', ') : null,
    optional: chosen.length === 0,
    answers: [
      ...['heat', 'glass'].map((label) => ({ label, keeps: true, pick: () => setChosen([...chosen, label]) })),
      { label: 'that is all', pick: () => setAll(true) },
    ],
  }
  const first: Ask = {
    id: 'first',
    name: 'First',
    ask: 'First?',
    said: null,
    answers: [{ label: 'yes', pick: () => {} }],
  }
  return <Questions asks={[first, several]} rest={<p>All said.</p>} />
}

test('a question that takes several answers stays until somebody says that this is all', () => {
  render(<Several />)
  fireEvent.click(screen.getByRole('button', { name: 'several' }))
  for (const label of ['heat', 'glass']) {
    fireEvent.click(screen.getByRole('button', { name: new RegExp(label) }))
    expect(heading()).toBe('Which of them?')
  }
  fireEvent.click(screen.getByRole('button', { name: /that is all/ }))
  expect(heading()).toBe('First?')
  expect(screen.getByText('heat, glass')).toBeTruthy()
})

describe('answers', () => {
  test('carry their digits, the tenth a 0, and more than ten none', () => {
    render(<Answers answers={Array.from({ length: 11 }, (_, i) => ({ label: `no. ${i + 1}`, pick: () => {} }))} />)
    const keys = screen.getAllByRole('button').map((b) => b.dataset.key ?? null)
    expect(keys).toEqual(['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', null])
  })
  test('one that may not be given now is shut', () => {
    const pick = jest.fn()
    render(<Answers answers={[{ label: 'Done', pick, disabled: true }]} />)
    fireEvent.click(screen.getByRole('button'))
    expect(pick).not.toHaveBeenCalled()
  })
})

test('what is missing is the question; what holds is listed', () => {
  render(
    <Standing
      conditions={[
        { met: true, text: 'A route is chosen.', next: '' },
        { met: false, text: 'The board is not named yet.', next: 'Choose one.' },
      ]}
    />,
  )
  expect(heading()).toBe('The board is not named yet.')
  expect(screen.getByRole('list', { name: 'Done when' }).textContent).toContain('A route is chosen.')
})

function Typed() {
  const [text, setText] = useKept('typed', '')
  return <input aria-label="Typed" value={text} onChange={(e) => setText(e.target.value)} />
}

describe('a step on one screen', () => {
  const frame = (more: Partial<Frame> = {}): Frame => ({
    gateLine: null,
    gateCard: null,
    notices: null,
    kept: new Map(),
    ...more,
  })
  const sheet = (given: Frame, name = 'Rare') => (
    <FrameContext.Provider value={given}>
      <StepSheet
        title="Which pad is what"
        drawing={<p>the drawing</p>}
        twin={<p>the same in words</p>}
        findings={['a', 'b', 'c'].map((code) => finding(code, 'watch', `Finding ${code}.`, '', ''))}
        card={<p>the question</p>}
        more={[{ id: 'rare', name, content: <Typed /> }, null]}
      />
    </FrameContext.Provider>
  )
  test('a gate takes the place of the card', () => {
    render(sheet(frame({ gateCard: <p>the gate</p> })))
    expect(screen.getByText('the gate')).toBeTruthy()
    expect(screen.queryByText('the question')).toBeNull()
  })
  test('the drawing and its words change places', () => {
    render(sheet(frame()))
    fireEvent.click(screen.getByRole('button', { name: /in words/ }))
    expect(screen.getByText('the same in words')).toBeTruthy()
    expect(screen.queryByText('the drawing')).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: /as a drawing/ }))
    expect(screen.getByText('the drawing')).toBeTruthy()
  })
  test('two findings stand there, the others open', async () => {
    render(sheet(frame()))
    expect(screen.queryByText('Finding c.')).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: '1 more check' }))
    expect(within(await screen.findByRole('dialog')).getByText('Finding c.')).toBeTruthy()
  })
  test('what is typed in a drawer outlives its closing, and the drawer outlives a change of its name', async () => {
    const given = frame()
    const { rerender } = render(sheet(given))
    fireEvent.click(screen.getByRole('button', { name: 'Rare' }))
    fireEvent.change(await screen.findByLabelText('Typed'), { target: { value: 'half a sentence' } })
    rerender(sheet(given, 'Rare: 1'))
    expect((screen.getByLabelText('Typed') as HTMLInputElement).value).toBe('half a sentence')
    await act(async () => {
      fireEvent.click(screen.getByRole('button', { name: /^Close/ }))
    })
    expect(screen.queryByLabelText('Typed')).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: 'Rare: 1' }))
    expect((screen.getByLabelText('Typed') as HTMLInputElement).value).toBe('half a sentence')
  })
})

describe('findings of one kind', () => {
  test('fold to one that says how many there are, the worst first', () => {
    const folded = foldAlike([
      finding('alike', 'watch', 'A and B look alike.', '', ''),
      finding('alike', 'watch', 'C and D look alike.', '', ''),
      finding('fits', 'ok', 'It fits.', '', ''),
      finding('over', 'error', 'Too much.', '', ''),
    ])
    expect(folded.map((f) => f.message)).toEqual(['Too much.', 'A and B look alike. 1 more of this kind.', 'It fits.'])
  })
})

test('a word of the trade explains itself where it stands', async () => {
  render(
    <p>
      <Explained>Free BOOT, then power on.</Explained>
    </p>,
  )
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name: 'BOOT: what is that?' }))
  })
  expect((await screen.findByRole('dialog')).textContent).toMatch(/held to ground at power-up/)
})
