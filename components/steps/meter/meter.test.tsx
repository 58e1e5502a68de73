/** @jest-environment jsdom */

import { takenKey } from '@fresh-coat/core/steps/meter/quantity'
import { aCalibration } from '@fresh-coat/core/testing/a-calibration'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { Energy } from './energy'
import { PastePairs, Zeros } from './points'
import { MeterSurface } from './surface'
import { Told } from './told'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

type Data = StepData['meter']
const reference = {
  id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a02',
  name: 'Outlet meter',
  gainPct: 0.5,
  digits: 2,
  resolution: 0.1,
}
const loads = [
  { id: 'l1', name: 'Lamp', watts: 60, kind: 'resistive' },
  { id: 'l2', name: 'Iron', watts: 800, kind: 'resistive' },
  { id: 'l3', name: 'Fan heater', watts: 1920, kind: 'resistive' },
  { id: 'l4', name: 'Kettle', watts: 1200, kind: 'resistive' },
]
const point = (id: string, indicated: number, reference: number, role: 'fit' | 'verify' = 'fit') => ({
  id,
  indicated,
  reference,
  role,
})
const fourTaken = {
  instrumentId: reference.id,
  points: [point('p1', 62, 60), point('p2', 826, 800), point('p3', 1983, 1920), point('p4', 1240, 1200, 'verify')],
}
const lay = (data: Partial<Data> = {}, more: object = {}) =>
  onTheBench('meter', MeterSurface, { data, choices: { instruments: [reference], loads }, ...more })
/** Presses a point on the plot, from 0 in the order they were taken. */
const pressPoint = (n: number) =>
  act(async () => void fireEvent.click(document.querySelectorAll('svg g.cursor-pointer')[n] as Element))
const take = async (shows: string, truth: string) => {
  await type('The unit shows', shows)
  await type('The reference shows', truth)
  await press(/Take this point/)
}

describe('the points of a calibration', () => {
  test('nothing is taken before there is a meter to trust', async () => {
    const bench = lay()
    expect(screen.queryByLabelText('The unit shows')).toBeNull()
    await press(/Outlet meter/)
    expect(bench.record().instrumentId).toBe(reference.id)
    expect(screen.getByLabelText('The unit shows')).toBeTruthy()
  })
  test('a point is both displays or none, and the fields are empty for the next', async () => {
    const bench = lay({ instrumentId: reference.id })
    await type('The unit shows', '62')
    expect((screen.getByRole('button', { name: /Take this point/ }) as HTMLButtonElement).disabled).toBe(true)
    await take('62', '60')
    expect(bench.record().points).toEqual([point('p1', 62, 60)])
    expect((screen.getByLabelText('The unit shows') as HTMLInputElement).value).toBe('')
  })
  test('they are asked for one after the other, each load named, until the first is read again, and then zero', async () => {
    const bench = lay({ instrumentId: reference.id })
    const asked: string[] = []
    for (let n = 0; n < 8; n++) {
      const ask = screen.getAllByRole('heading', { level: 2 }).at(-1)?.textContent ?? ''
      asked.push(ask)
      const load = loads.find((l) => ask.startsWith(l.name))
      const again = ask.startsWith('The first load again')
      if (!load && !again) break
      const truth = load ? load.watts : (bench.record().points[0]?.reference as number)
      await take(String(truth * 1.03), String(truth))
    }
    expect(new Set(asked.slice(0, 4).map((a) => a.split(',')[0]))).toEqual(new Set(loads.map((l) => l.name)))
    expect(asked[4]).toMatch(/^The first load again/)
    expect(asked[5]).toBe('Relay off: what does the unit show?')
    // One was kept out of the fit by itself.
    expect(bench.record().points.filter((p) => p.role === 'verify')).toHaveLength(1)
    for (const z of ['0.3', '0.2', '0.3', '0.4', '0.3']) {
      await type('It shows', z)
      await press(/Take it/)
    }
    expect(bench.record().zeros).toEqual([0.3, 0.2, 0.3, 0.4, 0.3])
    expect(screen.queryByText(/Relay off/)).toBeNull()
    await press('Save this calibration')
    expect(bench.sent).toEqual([['save-calibration', { unitId: 'u1' }]])
  })
  test('another quantity begins afresh, and the one before comes back as it was', async () => {
    const bench = lay(fourTaken)
    await press('Quantity: change')
    await act(async () => void fireEvent.click(screen.getByLabelText('Voltage')))
    expect(bench.record()).toMatchObject({ quantity: 'V', points: [], limitPct: 1 })
    await act(async () => void fireEvent.click(screen.getByLabelText('Power')))
    expect(bench.record()).toMatchObject({ quantity: 'P', points: fourTaken.points, limitPct: 2 })
  })
})

/** Spread, verified, its first load again, and five zeros: nothing more is asked. */
const enough = {
  ...fourTaken,
  points: [...fourTaken.points, point('p5', 61.9, 60)],
  zeros: [0.3, 0.2, 0.3, 0.4, 0.3],
}

describe('a calibration that was saved', () => {
  const saved = (at: string) => aCalibration({ at, taken: takenKey(enough), due: '2027-11-24' })
  const evening = { today: '2026-11-24', zone: 'America/New_York' }
  test('takes more points on the evening it was made, though the day is another one in UTC', () => {
    lay(enough, { view: { ...evening, calibrations: [saved('2026-11-25T01:30:00Z')] } })
    expect(screen.getByRole('button', { name: 'Take another point' })).toBeTruthy()
    expect(screen.getByText(/Saved on 24 Nov 2026/)).toBeTruthy()
  })
  test('takes none on a later day: the unit was told its factor since', async () => {
    const bench = lay(enough, { view: { ...evening, calibrations: [saved('2026-11-24T02:30:00Z')] } })
    expect(screen.queryByRole('button', { name: 'Take another point' })).toBeNull()
    expect(screen.getByText(/The points of 23 Nov 2026 stay/)).toBeTruthy()
    await press('Calibrate it again')
    expect(bench.record()).toMatchObject({ points: [], zeros: [], factor: null, warm: false })
  })
  test('a point that was pressed is kept to verify, or dropped, and nothing else', async () => {
    const bench = lay(fourTaken)
    await pressPoint(1)
    await press(/Keep it to verify/)
    expect(bench.record().points.map((p) => p.role)).toEqual(['fit', 'verify', 'fit', 'verify'])
    await pressPoint(1)
    await press(/Drop it/)
    expect(bench.record().points.map((p) => p.id)).toEqual(['p1', 'p3', 'p4'])
  })
})

describe('readings as text', () => {
  const field = () => screen.getByLabelText(/^Readings with the relay off/) as HTMLInputElement
  test('zeros are kept while they are numbers, and what is none stays in the field', async () => {
    const bench = onTheBench('meter', ({ record }) => <Zeros record={record} unit="W" />)
    await type(/^Readings/, '0,3 0.20')
    expect(bench.record().zeros).toEqual([0.3, 0.2])
    expect(field().value).toBe('0,3 0.20')
    await type(/^Readings/, '0,3 0.20 x')
    expect(bench.record().zeros).toEqual([0.3, 0.2])
    expect(field().value).toBe('0,3 0.20 x')
    expect(screen.getByText('Numbers with spaces between.')).toBeTruthy()
  })
  test('what came from elsewhere since is in the field, and is not written over by what was typed before', async () => {
    const bench = onTheBench('meter', ({ record }) => <Zeros record={record} unit="W" />)
    await type(/^Readings/, '0.3')
    await bench.put({ zeros: [0.3, 0.4] })
    expect(field().value).toBe('0.3  0.4')
    await bench.put({ zeros: [] })
    expect(field().value).toBe('')
  })
  test('the counter shows what the record holds after an undo', async () => {
    const bench = onTheBench('meter', Energy)
    const counter = () => screen.getByLabelText(/^Its counter/) as HTMLTextAreaElement
    await act(async () => void fireEvent.change(counter(), { target: { value: '2026-05-01 1.0\n2026-06-01 4.5' } }))
    expect(bench.record().counter).toBe('2026-05-01 1.0\n2026-06-01 4.5')
    expect(within(screen.getByRole('status')).getByText('3.5 kWh')).toBeTruthy()
    await bench.put({ counter: '' })
    expect(counter().value).toBe('')
    expect(screen.queryByRole('status')).toBeNull()
  })
  test('of pasted pairs what is none is named with its line and stays, the others are points', async () => {
    const bench = onTheBench('meter', ({ record }) => <PastePairs record={record} />, {
      data: { points: [point('p7', 1, 1)] },
    })
    await type(/^Pairs/, '62 60\nlamp\n826;800')
    await press('Take them')
    expect(bench.record().points.slice(1)).toEqual([point('p8', 62, 60), point('p9', 826, 800)])
    expect((screen.getByLabelText(/^Pairs/) as HTMLTextAreaElement).value).toBe('lamp')
    expect(screen.getByText(/Line 2 is no pair of numbers: lamp/)).toBeTruthy()
  })
  test('more pairs than are kept stay in the field', async () => {
    const bench = onTheBench('meter', ({ record }) => <PastePairs record={record} />)
    await type(/^Pairs/, Array.from({ length: 63 }, (_, i) => `${i + 2} ${i + 1}`).join('\n'))
    await press('Take them')
    expect(bench.record().points).toHaveLength(60)
    expect((screen.getByLabelText(/^Pairs/) as HTMLTextAreaElement).value.split('\n')).toEqual([
      '62 61',
      '63 62',
      '64 63',
    ])
  })
})

test('a factor of nought is none: the unit is told what it would be told if nobody had looked', async () => {
  const fit = { model: 'gain', gain: 0.97, offset: 0 } as never
  const bench = onTheBench('meter', (props) => <Told {...props} fit={fit} unit="W" />)
  await type('The factor that stands in it now', '2')
  expect(bench.record().factor).toBe(2)
  const shown = () => [...document.querySelectorAll('section')].map((s) => s.textContent)
  expect(shown().join()).toMatch(/1\.94/)
  await type('The factor that stands in it now', '0')
  expect(bench.record().factor).toBeNull()
  expect(shown().join()).toMatch(/0\.97/)
})
