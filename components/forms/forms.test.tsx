/** @jest-environment jsdom */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react'
import { type ReactNode, useState } from 'react'
import { CommandButton } from './command-button'
import { CommandForm } from './command-form'
import { NumberField, readNumber, SelectField, TextField, Tick } from './fields'

const push = jest.fn()
const refresh = jest.fn()
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh }) }))
afterEach(() => {
  cleanup()
  jest.clearAllMocks()
})
const show = (children: ReactNode) =>
  render(<QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>)
const answer = (status: number, body: object) => {
  global.fetch = jest.fn(async () => ({ status, json: async () => body })) as never
}
const sentBody = () => JSON.parse((global.fetch as jest.Mock).mock.calls[0]?.[1].body)
const click = (name: string) =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })

function Volts({ heard }: { heard: (n: number | null) => void }) {
  const [value, setValue] = useState<number | null>(3.3)
  return (
    <NumberField
      label="Volts"
      unit="V"
      min={0}
      max={24}
      value={value}
      onChange={(n) => {
        heard(n)
        setValue(n)
      }}
    />
  )
}

describe('a number as people type it', () => {
  test.each([
    ['3.3', 3.3],
    ['3,3', 3.3],
    [' 12 345 ', 12345],
    ['12\u2009345', 12345],
    ['-0.5', -0.5],
    ['.5', 0.5],
    ['1e3', 1000],
    ['', null],
    ['3.3 V', null],
    ['1,2,3', null],
    ['1e999', null],
    ['0x10', null],
  ])('%j', (text, value) => expect(readNumber(text)).toBe(value))

  test('nonsense is said and not passed on: the last good value stays', () => {
    const heard = jest.fn()
    show(<Volts heard={heard} />)
    const field = screen.getByLabelText(/Volts/) as HTMLInputElement
    fireEvent.change(field, { target: { value: 'many' } })
    expect(heard).not.toHaveBeenCalledWith(Number.NaN)
    expect(field.value).toBe('many')
    fireEvent.change(field, { target: { value: '5,1' } })
    expect(heard).toHaveBeenLastCalledWith(5.1)
  })
  test('out of range is said', () => {
    show(<Volts heard={() => {}} />)
    fireEvent.change(screen.getByLabelText(/Volts/), { target: { value: '240' } })
    expect(document.body.textContent).toMatch(/24/)
  })
})

describe('fields', () => {
  test('have their label, and tell what was chosen', () => {
    const heard = jest.fn()
    show(
      <>
        <TextField label="Name" value="" onChange={(t) => heard('text', t)} />
        <SelectField
          label="Board"
          value={null}
          none="Nobody knows yet"
          options={[{ value: 'b1', label: 'Pellworth P1' }]}
          onChange={(b) => heard('board', b)}
        />
        <Tick label="It is reserved" checked={false} onChange={(t) => heard('tick', t)} />
      </>,
    )
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Lamp' } })
    fireEvent.change(screen.getByLabelText('Board'), { target: { value: 'b1' } })
    fireEvent.click(screen.getByLabelText('It is reserved'))
    expect(heard.mock.calls).toEqual([
      ['text', 'Lamp'],
      ['board', 'b1'],
      ['tick', true],
    ])
  })
})

describe('a button that runs a command', () => {
  test('sends it and shows the page anew', async () => {
    answer(200, { ok: true, value: {} })
    show(
      <CommandButton command="put-back" input={{ unitId: 'u1' }}>
        Put back
      </CommandButton>,
    )
    await click('Put back')
    expect([sentBody(), refresh.mock.calls.length]).toEqual([{ unitId: 'u1' }, 1])
  })
  test('says why it was refused, and what to do', async () => {
    answer(422, {
      ok: false,
      error: { code: 'x', message: 'It is in service.', kept: '', next: 'Reopen Prove first.' },
    })
    show(
      <CommandButton command="put-back" input={{}}>
        Put back
      </CommandButton>,
    )
    await click('Put back')
    expect(screen.getByRole('alert').textContent).toBe('It is in service. Reopen Prove first.')
    expect(refresh).not.toHaveBeenCalled()
  })
  test('says when the server is away, and can be pressed again', async () => {
    answer(503, {})
    show(
      <CommandButton command="put-back" input={{}}>
        Put back
      </CommandButton>,
    )
    await click('Put back')
    expect(screen.getByRole('alert').textContent).toMatch(/does not answer/)
    expect((screen.getByRole('button') as HTMLButtonElement).disabled).toBe(false)
  })
})

describe('a short form', () => {
  const form = (then?: (value: Record<string, unknown>) => string) =>
    show(
      <CommandForm
        command="create-unit"
        empty={{ name: '' }}
        submit="It has arrived"
        disabled={(v) => v.name === ''}
        {...(then ? { then } : {})}
      >
        {(v, set) => <TextField label="Name" value={v.name} onChange={(name) => set({ name })} />}
      </CommandForm>,
    )
  const name = () => screen.getByLabelText('Name') as HTMLInputElement
  test('cannot be sent while it is not whole', () => {
    form()
    expect((screen.getByRole('button') as HTMLButtonElement).disabled).toBe(true)
  })
  test('keeps what was typed until the server has it', async () => {
    answer(422, {
      ok: false,
      error: { code: 'x', message: 'Number 7 is on another case.', kept: 'Nothing was changed.', next: '' },
    })
    form()
    fireEvent.change(name(), { target: { value: 'Lamp' } })
    await click('It has arrived')
    await waitFor(() => expect(screen.getByText(/on another case/)).toBeTruthy())
    expect(name().value).toBe('Lamp')
    answer(200, { ok: true, value: { number: 8 } })
    await click('It has arrived')
    await waitFor(() => expect(name().value).toBe(''))
    expect(screen.queryByText(/on another case/)).toBe(null)
  })
  test('takes two fields at once: neither undoes the other', async () => {
    show(
      <CommandForm command="create-unit" empty={{ name: '', place: '' }} submit="It has arrived">
        {(v, set) => (
          <>
            <TextField label="Name" value={v.name} onChange={(name) => set({ name })} />
            <TextField label="Place" value={v.place} onChange={(place) => set({ place })} />
            <button
              type="button"
              onClick={() => {
                set({ name: 'Lamp' })
                set({ place: 'Foyer' })
              }}
            >
              Both
            </button>
          </>
        )}
      </CommandForm>,
    )
    // So the framework tells of what was typed before the page had come to life: of all fields, and then it draws.
    fireEvent.click(screen.getByRole('button', { name: 'Both' }))
    expect(name().value).toBe('Lamp')
    expect((screen.getByLabelText('Place') as HTMLInputElement).value).toBe('Foyer')
  })
  test('goes where it leads', async () => {
    answer(200, { ok: true, value: { number: 8 } })
    form((value) => `/units/${value.number}/arrive`)
    fireEvent.change(name(), { target: { value: 'Lamp' } })
    await click('It has arrived')
    await waitFor(() => expect(push).toHaveBeenCalledWith('/units/8/arrive'))
  })
})
