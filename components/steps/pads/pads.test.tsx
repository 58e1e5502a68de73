/** @jest-environment jsdom */

import { readEdge } from '@fresh-coat/core/module/map'
import { howTo, measureName, readingOf } from '@fresh-coat/core/pads/how'
import { type Measure, measureNames } from '@fresh-coat/core/pads/readings'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import { answer, ask, noWorld, onTheBench, press } from '@/components/testing/on-the-bench'
import { makeVirtualBoard, type VirtualBoard } from '@/standins/virtual-board'
import { readingWords } from './reading-cell'
import { PadsSay, RowByHand } from './say'
import { PadsSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

type Data = StepData['pads']
const lx106 = { identify: { decision: { family: 'LX106' as const, reason: 'read on the chip' } } }
const upper = (s: string) => `${s.charAt(0).toUpperCase()}${s.slice(1)}`

/** What the card asks for: which pad, which measure; null when it asks for none. */
function asked(): { pad: number; measure: Measure } | null {
  const [, pad, title] = /^Pad (\d+): (.*)$/.exec(ask()) ?? []
  const measure = measureNames.find((m) => measureName(m) === title)
  return pad && measure ? { pad: Number(pad) - 1, measure } : null
}
/** Answers the card with what the meter of the board shows. */
async function read(board: VirtualBoard, { pad, measure }: { pad: number; measure: Measure }): Promise<void> {
  const name = readingOf(measure)
  const value = board.answers[pad]?.[name]
  const words = readingWords[name]
  if (words.yes) return answer(upper(value ? words.yes : (words.no as string)))
  if (value === 'open') return answer('Open: nothing')
  if (value === '') return answer('Nothing is printed')
  const field = screen.getByLabelText(new RegExp(`^Pad ${pad + 1}, `))
  fireEvent.change(field, { target: { value: String(value) } })
  await act(async () => void fireEvent.submit(field.closest('form') as HTMLFormElement))
}

describe('a row that nobody knows', () => {
  test('counting comes first; the readings are as many as the pads', async () => {
    const bench = onTheBench('pads', PadsSurface, { around: lx106 })
    expect(ask()).toBe('How many pads lie together?')
    await press(/4 pads/)
    expect(bench.record().pads).toEqual(['UNKNOWN', 'UNKNOWN', 'UNKNOWN', 'UNKNOWN'])
    expect(bench.record().readings).toHaveLength(4)
  })
  test.each([3, 11, 12, 29, 40, 58])(
    'whoever answers what the card asks gets the row of board %i, and is let near power only by the meter',
    async (seed) => {
      const board = makeVirtualBoard(seed)
      const n = board.roles.length
      const bench = onTheBench('pads', PadsSurface, {
        around: lx106,
        data: { pads: board.roles.map(() => 'UNKNOWN'), readings: board.roles.map(() => ({})) } as Partial<Data>,
      })
      for (let i = 0; i < n * measureNames.length; i++) {
        const next = asked()
        if (!next) break
        if (howTo[next.measure].powered) {
          // Both ends of the supply were found by then, whoever is right about the rest.
          expect(screen.queryByText('no power yet')).toBeNull()
          expect(screen.getByText('may be powered')).toBeTruthy()
        }
        await read(board, next)
      }
      // Where nothing more would tell, it is taken as it stands.
      expect(ask()).toMatch(/^The row is clear\. Take it\?$|^Take the row as it stands\?$/)
      await answer('Take this row')
      const taken = bench.record().pads
      // What matters is found: a pad of no role may be taken for one more of those that are not needed.
      for (const role of ['GND', '3V3', 'TX', 'RX'] as const)
        expect(taken.indexOf(role)).toBe(board.roles.indexOf(role))
    },
  )
  test('a pad that was chosen is asked about, and what cannot be told is asked no more', async () => {
    onTheBench('pads', PadsSurface, { around: lx106, data: { pads: ['UNKNOWN', 'UNKNOWN', 'UNKNOWN', 'UNKNOWN'] } })
    const first = asked()
    await press(/Cannot tell: ask another/)
    expect(asked()).not.toEqual(first)
    await act(async () => void fireEvent.click(document.querySelector('[data-pad="3"]') as Element))
    expect(ask()).toMatch(/^Pad 3: /)
  })
  test('a typed reading that is none is named, and takes nothing', async () => {
    const bench = onTheBench('pads', PadsSurface, { around: lx106, data: { pads: ['UNKNOWN', 'UNKNOWN', 'UNKNOWN'] } })
    if (!/ohms to/.test(ask())) await press(/^to 3V3$/)
    const field = screen.getByLabelText(/^Pad \d+, To 3V3/)
    fireEvent.change(field, { target: { value: 'about ten' } })
    await act(async () => void fireEvent.submit(field.closest('form') as HTMLFormElement))
    expect(screen.getByText(/“about ten” is no reading/)).toBeTruthy()
    expect(bench.record().readings.every((r) => Object.keys(r).length === 0)).toBe(true)
  })
  test('more than the part of 3.3 V may have is refused with the words to stop, kept, and left out of the answer', () => {
    onTheBench('pads', PadsSurface, {
      around: lx106,
      data: { railKnown: true, pads: ['UNKNOWN', 'UNKNOWN', 'UNKNOWN'], readings: [{ volts: 12 }, {}, {}] as never },
    })
    expect(screen.getByText(/Pad 1: Above 6 V: switch off/)).toBeTruthy()
    expect(screen.getByText(/It is kept, and left out of the answer/)).toBeTruthy()
  })
})

describe('the row as it lies', () => {
  const four: Partial<Data> = {
    pads: ['3V3', 'RX', 'TX', 'GND'],
    readings: [{ cont_gnd: false }, { cont_gnd: false }, { cont_gnd: false }, { cont_gnd: true }] as never,
  }
  const say = (data: Partial<Data>) =>
    onTheBench('pads', (props) => <PadsSay {...props} count={0} />, { data: { ...four, ...data } })
  test('seen from the parts side another pad comes last, with its reading', async () => {
    const bench = say({})
    await press('How many pads: change')
    await press('Add a pad')
    expect(bench.record().pads).toEqual(['3V3', 'RX', 'TX', 'GND', 'UNKNOWN'])
    await press('One pad less')
    expect(bench.record()).toMatchObject(four)
  })
  test('seen from the solder side it comes first, since that is the end one looks at', async () => {
    const bench = say({ seenFrom: 'bottom' })
    await press('How many pads: change')
    await press('Add a pad')
    expect(bench.record().pads).toEqual(['UNKNOWN', '3V3', 'RX', 'TX', 'GND'])
    expect(bench.record().readings.map((r) => r.cont_gnd)).toEqual([undefined, false, false, false, true])
    await press('One pad less')
    expect(bench.record()).toMatchObject(four)
  })
  test('there are never more than can be solved together', async () => {
    const bench = say({ pads: Array(12).fill('UNKNOWN'), readings: [] })
    await press('How many pads: change')
    expect((screen.getByRole('button', { name: 'Add a pad' }) as HTMLButtonElement).disabled).toBe(true)
    expect(bench.record().pads).toHaveLength(12)
  })
  test('how BOOT is reached is nobody’s word until it is said', async () => {
    const bench = say({})
    expect(bench.record().bootBy).toBeNull()
    await press('BOOT: change')
    await act(async () => void fireEvent.click(screen.getByLabelText('A button on it')))
    expect(bench.record().bootBy).toBe('button')
  })
  test('a role that is set by hand is set for that pad alone', async () => {
    const bench = onTheBench('pads', ({ record }) => <RowByHand record={record} order={[0, 1, 2, 3]} />, { data: four })
    await act(async () => void fireEvent.change(screen.getByLabelText('Pad 2'), { target: { value: 'BOOT' } }))
    expect(bench.record().pads).toEqual(['3V3', 'BOOT', 'TX', 'GND'])
  })
})

test('a module of the kit takes the place of counting, with the print of its contacts and nothing measured', async () => {
  const module_ = {
    id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a05',
    name: 'Quoinsby W8 module',
    family: 'LX106' as const,
    pitchMm: 2,
    edges: [
      { side: 'left' as const, contacts: readEdge('RST, EN, ?, 3V3', 1) },
      { side: 'right' as const, contacts: readEdge('TX, RX, BOOT, GND', 5) },
    ],
  }
  const bench = onTheBench('pads', PadsSurface, { around: lx106, choices: { modules: [module_] } })
  await press('Quoinsby W8 module')
  const { moduleId, pads, readings, contacts } = bench.record()
  expect(moduleId).toBe(module_.id)
  expect(pads).toEqual(expect.arrayContaining(['3V3', 'TX', 'RX', 'BOOT', 'GND']))
  expect(contacts).toHaveLength(pads.length)
  // What the map says is print: nothing of it was measured, and nothing may be powered by it.
  expect(readings.every((r) => r.cont_gnd === undefined && r.ohms_3v3 === undefined && r.volts === undefined)).toBe(
    true,
  )
})
