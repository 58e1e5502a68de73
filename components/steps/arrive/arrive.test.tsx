/** @jest-environment jsdom */
import { board } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { answer, ask, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { LoadCheckPart } from './load-check'
import { NewBoard } from './new-board'
import { ArriveSurface } from './surface'

const sent: [string, object][] = []
let served: object = { state: 'ok', value: { id: 'b9' } }
jest.mock('@/components/send', () => ({
  ...jest.requireActual('@/components/send'),
  send: async (command: string, input: object) => {
    sent.push([command, input])
    return served
  },
}))
jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(() => {
  noWorld()
  sent.length = 0
  served = { state: 'ok', value: { id: 'b9' } }
})
afterEach(cleanup)

type Data = StepData['arrive']
const lay = (data: Partial<Data> = {}, more: object = {}) => onTheBench('arrive', ArriveSurface, { data, ...more })
const loads = (data: Partial<Data> = {}, more: object = {}) =>
  onTheBench('arrive', (props) => <LoadCheckPart view={props.view} record={props.record} />, { data, ...more })
const select = (label: string, value: string) =>
  act(async () => void fireEvent.change(screen.getByLabelText(label), { target: { value } }))

describe('a unit that arrives', () => {
  test('is asked for its board, its route, whether it works as sold, and what it will work, in this order', async () => {
    const bench = lay(
      {},
      { view: { board: null }, choices: { boards: [{ id: 'b1', name: 'Pellworth P1', units: 0 }] } },
    )
    expect(ask()).toBe('Which board is it?')
    await select('Board', 'b1')
    expect(bench.sent).toEqual([['edit-unit', { unitId: 'u1', version: 1, boardId: 'b1' }]])
    cleanup()
    const next = lay()
    expect(ask()).toBe('How does it get its firmware?')
    await answer('Over wires, in place')
    expect(next.record().route).toBe('wires-in-place')
    expect(ask()).toBe('Plugged in once as it was sold: does it work?')
    await answer('It works')
    expect(ask()).toBe('What will it work?')
    await answer('A pump')
    expect(next.record()).toMatchObject({ triedAsSold: 'works', load: 'pump' })
  })
  test('of a latch it is asked whether people leave by it, and then whether it opens by hand', async () => {
    const bench = lay({ route: 'wires-in-place', triedAsSold: 'works', load: 'latch-locks' })
    expect(ask()).toBe('Do people leave by what it locks?')
    expect(screen.getByText(/the local fire code decides/)).toBeTruthy()
    await answer('Yes')
    expect(ask()).toMatch(/^Does it open by hand/)
    await answer('No')
    expect(bench.record()).toMatchObject({ wayOut: true, opensByHand: false })
  })
  test('of one in fixed wiring it is asked whether it hangs there now', () => {
    lay(
      { route: 'wires-in-place', triedAsSold: 'works', load: 'pump' },
      { view: { board: { ...board, fixedWiring: true } } },
    )
    expect(ask()).toBe('Does it hang in fixed wiring now?')
  })
})

describe('may it carry this', () => {
  const relay10 = { source: 'relay', A: 10, W: null, Vmax: null, current: null, makeA: null, from: null }
  test('what nobody knows is not judged, and is never shown as safe', () => {
    loads()
    expect(screen.getByText(/Say how much it will carry/)).toBeTruthy()
    cleanup()
    loads({ loadWatts: 500 })
    expect(screen.getByText(/No marking is known/)).toBeTruthy()
    expect(screen.queryByText('ok')).toBeNull()
  })
  test('a load of which nobody said what it is to a contact is a caution, however small', async () => {
    const bench = loads({ loadWatts: 20, ratings: [relay10] as never, load: 'other' })
    const said = within(screen.getByRole('status'))
    expect(said.getByText('caution')).toBeTruthy()
    expect(said.getByText(/its inrush is not known/)).toBeTruthy()
    await select('To a contact it is', 'resistive')
    expect(bench.record().electric).toBe('resistive')
    expect(within(screen.getByRole('status')).getByText('ok')).toBeTruthy()
  })
  test('more than the marking stops it', () => {
    loads({ loadWatts: 3000, ratings: [relay10] as never, electric: 'resistive' })
    expect(within(screen.getByRole('status')).getByText('stop')).toBeTruthy()
  })
  test('the first marking of its own begins with those of its board, and nought is none', async () => {
    const bench = loads({}, { view: { board: { ...board, ratings: [relay10] } } })
    expect(screen.getByText(/From its board: the relay 10 A/)).toBeTruthy()
    await press('Write a marking down')
    expect(bench.record().ratings.map((r) => [r.source, r.A])).toEqual([
      ['relay', 10],
      ['relay', null],
    ])
    const amperes = screen.getAllByLabelText('Amperes')
    await act(async () => void fireEvent.change(amperes[1] as Element, { target: { value: '0' } }))
    expect(bench.record().ratings[1]?.A).toBeNull()
    const [off] = screen.getAllByRole('button', { name: 'Take it off' })
    await act(async () => void fireEvent.click(off as Element))
    expect(bench.record().ratings).toHaveLength(1)
  })
  test('a lead of nought amperes is no lead', async () => {
    const bench = loads({ lead: { A: 10, wound: true } })
    await type('The lead bears', '0')
    expect(bench.record().lead).toBeNull()
  })
})

describe('a board that nobody has seen here', () => {
  const layNew = () => onTheBench('arrive', (props) => <NewBoard view={props.view} act={props.act} />)
  const name = async () => {
    await type('Maker', 'Harkle')
    await type('Product', 'H2')
    await press('Name this board')
  }
  test('needs maker and product, and then becomes the unit’s', async () => {
    const bench = layNew()
    expect((screen.getByRole('button', { name: 'Name this board' }) as HTMLButtonElement).disabled).toBe(true)
    await name()
    expect(sent).toEqual([['create-board', expect.objectContaining({ maker: 'Harkle', product: 'H2', mains: true })]])
    expect(bench.sent).toEqual([['edit-unit', { unitId: 'u1', version: 1, boardId: 'b9' }]])
  })
  test('one that was refused is said by the page, and what was typed stays', async () => {
    served = { state: 'refused', error: { code: 'exists', message: 'It is there already.' } }
    const bench = layNew()
    await name()
    expect(bench.sent).toEqual([['create-board', expect.objectContaining({ maker: 'Harkle' })]])
    expect((screen.getByLabelText('Maker') as HTMLInputElement).value).toBe('Harkle')
  })
})
