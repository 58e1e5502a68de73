/** @jest-environment jsdom */
import { board, unit } from '@fresh-coat/core/testing/a-unit'
import { gatesAt } from '@fresh-coat/core/unit/gates'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { GateId, StepId } from '@fresh-coat/core/unit/way'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { BenchView } from './bench-view'
import { GateCard, GateLine, type Said } from './gates'

/** The line of what was confirmed, and the gate in the way, as the frame places them. */
function Gates({ view, step, confirm }: { view: UnitView; step: StepId; confirm: (gate: GateId, said: Said) => void }) {
  const gates = gatesAt(view, step)
  const gate = gates.inTheWay
  return (
    <>
      <GateLine gates={gates} />
      {gate && <GateCard view={view} step={step} gate={gate} gates={gates} confirm={(said) => confirm(gate, said)} />}
    </>
  )
}

afterEach(cleanup)
const confirmed = (gate: 'mains-off' | 'discharged', day: string): UnitView['gates'][number] => ({
  gate,
  day,
  at: `${day}T09:00:00Z`,
  by: 'bench',
  measured: gate === 'discharged' ? '0.4' : '',
})

describe('gates in front of a step', () => {
  test('name the hazard of this board and wait for a press', () => {
    const confirm = jest.fn()
    render(<Gates view={unit()} step="wire" confirm={confirm} />)
    expect(screen.getByText(/Nobody has judged whether this board is isolated/)).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: /Unplugged/ }))
    expect(confirm).toHaveBeenCalledWith('mains-off', { measured: '' })
  })
  test('a discharge goes with what the meter showed', () => {
    const confirm = jest.fn()
    render(<Gates view={unit({}, { gates: [confirmed('mains-off', '2026-11-24')] })} step="open" confirm={confirm} />)
    fireEvent.change(screen.getByLabelText(/Measured/), { target: { value: ' 0,4 ' } })
    fireEvent.click(screen.getByRole('button', { name: /Waited and measured/ }))
    expect(confirm).toHaveBeenCalledWith('discharged', { measured: '0,4' })
  })
  test('a confirmation of today is one quiet line; one of yesterday is asked again', () => {
    const { rerender } = render(
      <Gates view={unit({}, { gates: [confirmed('mains-off', '2026-11-24')] })} step="wire" confirm={() => {}} />,
    )
    expect(screen.getByText(/^Unplugged, confirmed today/)).toBeTruthy()
    expect(screen.getAllByRole('button').map((b) => b.textContent)).toEqual(['Waited and measuredg'])
    rerender(
      <Gates view={unit({}, { gates: [confirmed('mains-off', '2026-11-23')] })} step="wire" confirm={() => {}} />,
    )
    expect(screen.getByRole('button', { name: /Unplugged/ })).toBeTruthy()
  })
  test('before its time the wait ends only with a reading below 30 V, and says that it was early', () => {
    const confirm = jest.fn()
    const now = new Date().toISOString()
    const gates = [{ ...confirmed('mains-off', '2026-11-24'), at: now }]
    render(<Gates view={unit({}, { gates })} step="open" confirm={confirm} />)
    const button = screen.getByRole('button', { name: /before the time/ }) as HTMLButtonElement
    expect(button.disabled).toBe(true)
    expect(screen.getByRole('timer').textContent).toMatch(/7:5\d/)
    const type = (value: string) => fireEvent.change(screen.getByLabelText(/Measured/), { target: { value } })
    type('48')
    expect(button.disabled).toBe(true)
    type('0,4')
    fireEvent.click(button)
    expect(confirm).toHaveBeenCalledWith('discharged', { measured: '0,4', early: true })
  })
  test('one gate comes after the other', () => {
    render(<Gates view={unit()} step="open" confirm={() => {}} />)
    expect(screen.getAllByRole('button')).toHaveLength(1)
  })
  test('a low-voltage board has none', () => {
    const { container } = render(
      <Gates view={unit({}, { board: { ...board, mains: false } })} step="wire" confirm={() => {}} />,
    )
    expect(container.innerHTML).toBe('')
  })
})

describe('the bench view', () => {
  const steps = ['Take out two screws.', 'Lift the face.'].map((says, i) => ({
    id: `out-${i}`,
    title: says,
    say: says,
    look: '',
    otherwise: '',
    caution: false,
    seconds: null,
  })) as never
  const show = (onTick = jest.fn(), onOpenChange = jest.fn()) => {
    render(<BenchView title="07 Open" steps={steps} open onOpenChange={onOpenChange} onTick={onTick} />)
    return { onTick, onOpenChange }
  }
  const key = (k: string) =>
    act(async () => {
      fireEvent.keyDown(document.activeElement ?? document.body, { key: k, code: k === ' ' ? 'Space' : k })
    })
  test('shows one thing at a time, and says what was done', async () => {
    const { onTick } = show()
    expect(screen.getByRole('dialog').textContent).toMatch(/Take out two screws/)
    expect(screen.getByRole('dialog').textContent).not.toMatch(/Lift the face/)
    await key(' ')
    expect(onTick).toHaveBeenCalledWith('out-0', true, '')
    expect(screen.getByRole('dialog').textContent).toMatch(/Lift the face/)
  })
  test('backspace goes back and takes the mark off', async () => {
    const { onTick } = show()
    await key(' ')
    await key('Backspace')
    expect(onTick).toHaveBeenLastCalledWith('out-0', false, '')
    expect(screen.getByRole('dialog').textContent).toMatch(/Take out two screws/)
  })
  test('closes after the last, with every one marked', async () => {
    const { onTick, onOpenChange } = show()
    await key(' ')
    await key('PageDown')
    expect(onTick.mock.calls.map(([id]) => id)).toEqual(['out-0', 'out-1'])
    expect(onOpenChange).toHaveBeenCalledWith(false)
  })
})
