/** @jest-environment jsdom */
import { confidenceOf } from '@fresh-coat/core/pins/template'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import { answer, ask, noWorld, onTheBench, press } from '@/components/testing/on-the-bench'
import { PinsSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
beforeEach(noWorld)
afterEach(cleanup)

type Data = StepData['pins']
const around = { identify: { decision: { family: 'LX106' as const, reason: 'read on the chip' } } }
const template = (pins: object[]): Data['template'] =>
  ({ format: 'fresh-coat/pin-template', version: 1, board: 'P1', family: 'LX106', pins }) as never
const relay = { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high' }
const lay = (data: Partial<Data> = {}) => onTheBench('pins', PinsSurface, { data, around })
const sureOf = (data: Data, pin: string) => confidenceOf(data.template?.pins.find((p) => p.pin === pin)?.evidence)

describe('one pin at a time', () => {
  test('what powers it comes first: relays are found on mains, with the case closed', async () => {
    const bench = lay({ template: template([relay]) })
    expect(ask()).toBe('What powers it while its pins are tried?')
    await press(/The mains, case closed/)
    expect(bench.record().power).toBe('mains')
    expect(ask()).toMatch(/^GPIO12: see /)
  })
  test('two sittings confirm it, two looks in one do not', async () => {
    const bench = lay({ power: 'mains', template: template([relay]) })
    await press(/Seen, it agrees/)
    expect(sureOf(bench.record(), 'GPIO12')).toBe('seen')
    await press('Sitting: change')
    await press('Power was cycled: sitting 2')
    expect(bench.record().sitting).toBe(2)
    await press(/Seen, it agrees/)
    expect(sureOf(bench.record(), 'GPIO12')).toBe('confirmed')
  })
  test('one that did something else is assumed; with another word it begins anew and can be confirmed', async () => {
    const bench = lay({ power: 'mains', template: template([relay]) })
    await press(/It did something else/)
    expect(sureOf(bench.record(), 'GPIO12')).toBe('assumed')
    expect(ask()).toBe('What does GPIO12 do instead?')
    await answer('a light')
    expect(bench.record().template?.pins[0]?.fn).not.toBe('relay')
    await press(/Seen, it agrees/)
    expect(sureOf(bench.record(), 'GPIO12')).toBe('seen')
  })
  test('a pin that was confirmed as one thing is not confirmed as another', async () => {
    const evidence = ['s1', 's2'].map((sitting) => ({ unit: '7', sitting, agrees: true }))
    const bench = lay({
      power: 'mains',
      sitting: 2,
      template: template([
        { ...relay, evidence },
        { pin: 'GPIO0', fn: 'button' },
      ]),
    })
    await press(/^GPIO12[:,]/)
    await press('GPIO12 channel: change')
    await act(
      async () =>
        void fireEvent.change(screen.getByRole('textbox', { name: 'GPIO12 channel' }), { target: { value: '2' } }),
    )
    expect(sureOf(bench.record(), 'GPIO12')).toBe('assumed')
  })
  test('“nobody knows what it does” takes it out, and only it', async () => {
    const bench = lay({ power: 'mains', template: template([relay, { pin: 'GPIO0', fn: 'button', ch: 1 }]) })
    await press('Nobody knows what it does')
    expect(bench.record().template?.pins.map((p) => p.pin)).toEqual(['GPIO0'])
  })
})

describe('a template as text', () => {
  const open = async (text: string) => {
    await press('As text')
    await act(
      async () => void fireEvent.change(screen.getByLabelText('Bring in a pin template'), { target: { value: text } }),
    )
    await press('Use it for this board')
  }
  test('what is no JSON, and what is no template, changes nothing and stays in the field', async () => {
    const bench = lay({ power: 'mains', template: template([relay]) })
    await open('{ pins')
    expect(screen.getByRole('alert').textContent).toMatch(/This is not JSON\. Nothing was changed/)
    expect(bench.record().template).toEqual(template([relay]))
    expect((screen.getByLabelText('Bring in a pin template') as HTMLTextAreaElement).value).toBe('{ pins')
  })
  test('one of another board starts as assumed: what was seen there was seen there', async () => {
    const bench = lay({ power: 'mains' })
    const evidence = ['s1', 's2'].map((sitting) => ({ unit: '3', sitting, agrees: true }))
    await open(JSON.stringify(template([{ ...relay, evidence }])))
    expect(bench.record().template?.pins).toEqual([relay])
    expect(bench.record().template?.board).toBe('Pellworth P1 rev C')
  })
  test('what stands there to be taken along cannot be typed into', async () => {
    lay({ power: 'mains', template: template([relay]) })
    await press('As text')
    const shown = screen.getByRole('region', { name: 'This template' })
    expect(shown.querySelector('textarea')).toBeNull()
    expect(JSON.parse(shown.querySelector('pre')?.textContent ?? '')).toEqual(template([relay]))
  })
})

test('without a family there is no table of pins, and none is made up', () => {
  onTheBench('pins', PinsSurface)
  expect(screen.getByText(/The family is not known yet/)).toBeTruthy()
})
