/** @jest-environment jsdom */

import { checkKinds } from '@fresh-coat/core/identify/identify'
import { blankItem } from '@fresh-coat/core/open/opening'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import fc from 'fast-check'
import { CaseDrawing, wrapped } from './case-drawing'
import { CheckPicture } from './check-pictures'
import { goingBack } from './closing-drawing'
import { ErrorPlot } from './error-plot'
import { ModuleDrawing } from './module-drawing'
import { placesOf } from './opening-drawing'
import { PadField } from './pad-field'
import { cellsFor } from './sector-map'
import { roundStep } from './ticks'
import { WiringDrawing } from './wiring-drawing'
import { clockOfSeconds } from './write-plan'

afterEach(cleanup)

describe('words in drawings', () => {
  test('are cut at blanks, and never wider or longer than there is room', () => {
    expect(wrapped('silent to ground', 10, 2)).toEqual(['silent to', 'ground'])
    fc.assert(
      fc.property(
        fc.string(),
        fc.integer({ min: 2, max: 30 }),
        fc.integer({ min: 1, max: 4 }),
        (text, letters, most) => {
          const lines = wrapped(text, letters, most)
          expect(lines.length).toBeLessThanOrEqual(most)
          for (const line of lines) expect(line.length).toBeLessThanOrEqual(letters)
        },
      ),
    )
  })
  test('a clock counts minutes and seconds', () => {
    expect([clockOfSeconds(0), clockOfSeconds(45.4), clockOfSeconds(84)]).toEqual(['0:00', '0:45', '1:24'])
  })
})

describe('scales', () => {
  test('a step is 1, 2 or 5 of its decade and never longer than asked for', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-4, max: 1e6, noNaN: true }), (length) => {
        const step = roundStep(length)
        const lead = step / 10 ** Math.floor(Math.log10(step) + 1e-9)
        expect([1, 2, 5].some((m) => Math.abs(lead - m) < 1e-6)).toBe(true)
        expect(step).toBeLessThanOrEqual(length * (1 + 1e-9))
      }),
    )
  })
  test('a chip of any size fills the same room', () => {
    for (const sectors of [16, 128, 256, 512, 1024, 4096]) {
      const { columns, h, w } = cellsFor(sectors)
      expect(Math.ceil(sectors / columns) * h).toBeLessThanOrEqual(200)
      expect(Math.round(columns * w)).toBe(704)
    }
  })
})

describe('where a fastener is drawn', () => {
  const item = (change: object) => ({ ...blankItem('f1'), ...change })
  test('by the words people use for places', () => {
    expect(placesOf(item({ place: 'corners of the face', count: 2 }), 0)).toHaveLength(2)
    expect(placesOf(item({ place: 'middle, under the sticker' }), 1)).toEqual([[150, 150]])
    expect(placesOf(item({ kind: 'clip', place: 'along the seam', count: 4 }), 2)).toHaveLength(4)
  })
  test('always somewhere on the face, whatever is written', () => {
    fc.assert(
      fc.property(fc.string(), fc.integer({ min: 1, max: 200 }), fc.nat(60), (place, count, index) => {
        const places = placesOf(item({ place, count }), index)
        expect(places.length).toBeGreaterThan(0)
        for (const [x, y] of places) expect(x >= 0 && x <= 300 && y >= 0 && y <= 300).toBe(true)
      }),
    )
  })
})

test('the way back is the way in turned round, loose parts first', () => {
  const items = [item('f1', 2), item('f2', 4)]
  const list = goingBack(items, ['light pipe', 'light pipe'], { f2: 4 }, [])
  expect(list.map((t) => [t.id, t.back, t.of])).toEqual([
    ['part light pipe', 0, 1],
    ['f2', 4, 4],
    ['f1', 0, 2],
  ])
})
const item = (id: string, count: number) => ({ ...blankItem(id), count })

describe('drawings that are pressed', () => {
  const pad = (index: number) => ({
    index,
    role: 'UNKNOWN' as const,
    sure: 0.4,
    square: index === 0,
    label: '',
    conflict: false,
  })
  test('arrows choose the pad beside, and stop at the ends', () => {
    const choose = jest.fn()
    render(<PadField pads={[pad(0), pad(1), pad(2)]} rows={1} face="top" chosen={1} onChoose={choose} />)
    const row = screen.getByRole('application')
    fireEvent.keyDown(row, { key: 'ArrowRight' })
    fireEvent.keyDown(row, { key: 'ArrowLeft' })
    fireEvent.keyDown(row, { key: 'x' })
    expect(choose.mock.calls).toEqual([[2], [0]])
  })
  test('a lead is ticked by a press and by a key', () => {
    const toggle = jest.fn()
    render(
      <WiringDrawing
        pins={['GND', 'TX']}
        pads={['RX', 'GND']}
        plan={
          {
            connections: [
              { adapter: 0, pin: 'GND', pad: 'GND' },
              { adapter: 1, pin: 'TX', pad: 'RX' },
            ],
            findings: [],
          } as never
        }
        adapterName="Adapter 2"
        boardName="Unit 17"
        family="LX106"
        joined={['GND']}
        next="RX"
        onToggle={toggle}
      />,
    )
    const ground = screen.getByRole('checkbox', { name: /to pad GND, black/ })
    expect(ground.getAttribute('aria-checked')).toBe('true')
    fireEvent.keyDown(screen.getByRole('checkbox', { name: /to pad RX/ }), { key: ' ' })
    fireEvent.click(ground)
    expect(toggle.mock.calls).toEqual([['RX'], ['GND']])
  })
  test('pins are buttons where they are asked about, and one picture where they are only shown', () => {
    const pins = [{ pin: 'GPIO4', does: 'relay 1', sure: 'seen' as const, wrong: false, closed: false }]
    const choose = jest.fn()
    const { rerender } = render(<ModuleDrawing pins={pins} chip="LX106" chosen={null} onChoose={choose} />)
    fireEvent.keyDown(screen.getByRole('button', { name: 'GPIO4: relay 1, seen' }), { key: 'Enter' })
    expect(choose).toHaveBeenCalledWith('GPIO4')
    rerender(<ModuleDrawing pins={pins} chip="LX106" chosen={null} />)
    expect(screen.queryByRole('button')).toBeNull()
    expect(screen.getByRole('img', { name: 'Pins of the LX106: GPIO4: relay 1, seen' })).toBeTruthy()
  })
})

describe('drawings say what they show', () => {
  test('the error plot names its points, its limit and the next load', () => {
    render(
      <ErrorPlot
        points={[{ id: 'p1', x: 60.2, before: -3.5, after: 0.012, within: 0.8, verify: false }]}
        limitPct={2}
        unit="W"
        next={{ name: 'Fan heater', x: 1920 }}
        chosen={null}
        onChoose={() => {}}
      />,
    )
    const name = screen.getByRole('img').getAttribute('aria-label')
    expect(name).toContain('at 60.2 W before -3.50 %, after 0.012 %')
    expect(name).toContain('Limit 2 %. Next: Fan heater, 1920 W.')
  })
  test('a rating that nobody knows is said so', () => {
    const facts = {
      number: 7,
      maker: 'Pellworth',
      product: 'P1',
      place: '',
      volts: 230,
      ratedAmps: null,
      load: null,
      loadWords: 'nobody knows what',
      loadWatts: 60,
      loadAmps: 0.26,
      mains: true,
    }
    render(<CaseDrawing facts={facts} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toContain('rating not known')
    expect(screen.queryByText(/rated/)).toBeNull()
  })
})

test('every answer of every check of Identify has a picture of its own', () => {
  for (const kind of checkKinds) {
    const drawn = Object.keys(kind.values).map((value) => {
      const { container } = render(<CheckPicture kind={kind.kind} value={value} />)
      return container.innerHTML
    })
    expect(drawn).not.toContain('')
    expect(new Set(drawn).size).toBe(drawn.length)
  }
})
