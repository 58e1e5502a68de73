/** @jest-environment jsdom */
import { board } from '@fresh-coat/core/testing/a-unit'
import { cleanup, render, screen, within } from '@testing-library/react'
import { BoardFactsList, BoardPads, boardPins, taughtBy } from './dossier'
import { HowItOpens, UnitsOfBoard, WhatWentWrong } from './sections'

afterEach(cleanup)
const evidence = (unitNumber: number | null, at: string, key = 'family') =>
  ({ key, unitNumber, at, day: at.slice(0, 10) }) as never

describe('who taught a fact', () => {
  test('every unit once, in order, and the newest day', () => {
    const facts = [
      evidence(12, '2026-05-01T10:00:00Z'),
      evidence(3, '2026-06-02T10:00:00Z'),
      evidence(12, '2026-04-01T10:00:00Z'),
      evidence(5, '2026-07-01T10:00:00Z', 'pads'),
    ]
    expect(taughtBy(facts, 'family' as never)).toBe('From units 03, 12, last 2 Jun 2026')
    expect(taughtBy(facts, 'pads' as never)).toBe('From unit 05, last 1 Jul 2026')
  })
  test('nobody where no unit did', () => {
    expect(taughtBy([], 'family' as never)).toBe('')
    expect(taughtBy([evidence(null, '2026-05-01T10:00:00Z')], 'family' as never)).toBe('')
  })
})

describe('the pins of a board', () => {
  test('those of its family stand there empty; those in use say what they do, in natural order', () => {
    const pins = boardPins({
      family: 'LX106',
      template: {
        pins: [
          { pin: 'GPIO12', fn: 'relay', ch: 2, active: 'high' },
          { pin: 'GPIO4', fn: 'unused' },
        ],
      } as never,
    })
    expect(pins.find((p) => p.pin === 'GPIO12')?.does).toMatch(/relay 2$/)
    expect(pins.find((p) => p.pin === 'GPIO4')?.does).toBe('')
    const order = pins.map((p) => Number(p.pin.replace('GPIO', '')))
    expect(order).toEqual([...order].sort((a, b) => a - b))
  })
  test('without a family there are none but those that are written down', () => {
    expect(boardPins({ family: null, template: null })).toEqual([])
  })
})

describe('what is known of a board', () => {
  test('what nobody knows is named as such, never left out', () => {
    render(<BoardFactsList b={board} facts={[]} />)
    expect(screen.getByText(/^Nobody knows yet: /).textContent).toMatch(/family/)
  })
  test('a board without pads says who will find them', () => {
    render(<BoardPads b={{ pads: null }} />)
    expect(screen.getByText(/the first unit that reaches Find the pads solves them/)).toBeTruthy()
  })
  test('how it opens: in order, with what has to be put back otherwise', () => {
    const item = {
      id: 'f1',
      kind: 'screw',
      count: 2,
      driver: 'PH1',
      place: 'back',
      hiddenUnder: 'label',
      note: 'short ones',
      restore: 'glue',
      requires: [],
    }
    const b = {
      ...board,
      fasteners: [item, { ...item, id: 'f2', kind: 'clip', restore: 'same', note: '' }],
      parts: ['lens'],
      openMinutes: [{ unit: 3, minutes: 6 }],
    } as never
    render(<HowItOpens b={b} photos={[]} marks={[]} />)
    const [first, second] = screen.getAllByRole('listitem')
    expect(first?.textContent).toMatch(/^12 screws.*back with glue.*short ones/)
    expect(second?.textContent).toMatch(/^22 clips/)
    expect(second?.textContent).not.toMatch(/back with/)
    expect(screen.getByText('Took 6 min (03).')).toBeTruthy()
    expect(screen.getByText('Parts to keep: lens.')).toBeTruthy()
  })
  test('troubles are told by how often they turned out to be what', () => {
    render(<WhatWentWrong causes={{}} />)
    expect(screen.getByText(/Nothing on record/)).toBeTruthy()
  })
  test('more units than are drawn stand behind one link', () => {
    render(<UnitsOfBoard b={{ ...board, unitNumbers: [1, 2], unitCount: 40 }} />)
    expect(screen.getByRole('link', { name: 'All 40' }).getAttribute('href')).toBe('/units?board=b1')
    expect(within(screen.getByRole('list')).getAllByRole('link')).toHaveLength(2)
  })
})
