/** @jest-environment jsdom */
import { unit } from '@fresh-coat/core/testing/a-unit'
import { symptomsInUse, testNamed, testsOf, troubleshoot } from '@fresh-coat/core/trouble/troubleshoot'
import type { TroubleRecord, UnitView } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { Trouble } from './trouble'

afterEach(cleanup)
const acts = jest.fn(async () => true)
beforeEach(() => acts.mockClear())
const trouble = (more: Partial<TroubleRecord> = {}): TroubleRecord =>
  ({
    id: 't1',
    step: 'start',
    symptom: 'no_answer',
    answers: [],
    cause: null,
    note: '',
    openedAt: '2026-11-20T10:00:00Z',
    closedAt: null,
    attemptId: null,
    version: 1,
    ...more,
  }) as TroubleRecord
const see = (view: UnitView, step: StepId = 'backup') =>
  render(<Trouble view={view} step={step} open={true} onOpenChange={() => {}} act={acts} />)
const press = (name: string | RegExp, i = 0) =>
  act(async () => {
    fireEvent.click(screen.getAllByRole('button', { name })[i] as HTMLElement)
  })
const unplugged: Partial<UnitView> = {
  gates: [{ gate: 'mains-off', day: '2026-11-24', at: '2026-11-24T09:00:00Z', by: 'bench', measured: '' }],
}
const headings = () => screen.getAllByRole('heading', { level: 3 }).map((h) => h.textContent)

test('before the first start the bench is asked first, after it what the unit does', () => {
  see(unit(), 'backup')
  expect(headings().slice(0, 2)).toEqual(['On the bench', 'Once it runs'])
  cleanup()
  see(unit(), 'hub')
  expect(headings().slice(0, 2)).toEqual(['Once it runs', 'On the bench'])
})
test('a symptom opens a search at the step where it was seen', async () => {
  see(unit(), 'hub')
  const [first] = symptomsInUse
  await press(first?.says ?? '')
  expect(acts).toHaveBeenCalledWith('open-trouble', { unitId: 'u1', step: 'hub', symptom: first?.symptom })
})
test('a question that needs power is not asked before somebody says that it is unplugged, and how many wait is said', () => {
  const powered = testsOf('no_answer').filter((t) => t.powered)
  expect(powered.length).toBeGreaterThan(0)
  see(unit({}, { troubles: [trouble()] }))
  for (const t of powered) expect(screen.queryByText(t.ask)).toBeNull()
  expect(screen.getByText(new RegExp(`^${powered.length} more need 3\\.3 V`))).toBeTruthy()
  cleanup()
  see(unit({}, { troubles: [trouble()], ...unplugged }))
  expect(screen.queryByText(/more need 3\.3 V/)).toBeNull()
})
test('causes stand in the order of how likely they are, with their share', () => {
  see(unit({}, { troubles: [trouble()] }))
  const outcome = troubleshoot({ symptom: 'no_answer', answers: [] })
  if (!outcome.ok) throw new Error('no causes')
  const shown = within(screen.getByRole('region', { name: 'Causes' })).getAllByRole('listitem')
  expect(shown).toHaveLength(Math.min(5, outcome.value.causes.length))
  const shares = shown.map((li) => Number.parseFloat(li.querySelector('.pin')?.textContent ?? 'x'))
  expect(shares).toEqual([...shares].sort((a, b) => b - a))
})
test('an answer is told with its question, and can be taken back', async () => {
  see(unit({}, { troubles: [trouble()], ...unplugged }))
  await press(/^Yes: /)
  const asked = (acts.mock.calls[0] as unknown as [string, { test: string; yes: boolean }])[1]
  expect(asked.yes).toBe(true)
  cleanup()
  see(unit({}, { troubles: [trouble({ answers: [{ test: asked.test, yes: true }] as never })], ...unplugged }))
  await press(`Take back: ${testNamed(asked.test)?.ask}`)
  expect(acts).toHaveBeenLastCalledWith('answer-trouble', { troubleId: 't1', test: asked.test, yes: null })
})
test('a cause of one’s own wants some words', async () => {
  see(unit({}, { troubles: [trouble()] }))
  const done = () => screen.getByRole('button', { name: 'That was it' }) as HTMLButtonElement
  fireEvent.change(screen.getByLabelText('It was something else'), { target: { value: ' hm ' } })
  expect(done().disabled).toBe(true)
  fireEvent.change(screen.getByLabelText('It was something else'), { target: { value: ' the cat sat on it ' } })
  await press('That was it')
  expect(acts).toHaveBeenCalledWith('close-trouble', { troubleId: 't1', cause: 'other', note: 'the cat sat on it' })
})
test('what was found before on this unit stays to be seen', () => {
  const before = trouble({ cause: 'other', note: 'a hair in the socket', closedAt: '2026-11-20T11:00:00Z' })
  see(unit({}, { troubles: [before] }))
  expect(screen.getByText('a hair in the socket')).toBeTruthy()
  expect(headings()).toContain('On the bench')
})
