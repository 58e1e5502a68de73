/** @jest-environment jsdom */
import { cleanup, render, screen, within } from '@testing-library/react'
import { CalibrationTable, type MeteredUnit, Plots } from './calibrations'

afterEach(cleanup)
const calibration = { quantity: 'P', model: 'gain', gain: 1.034, worstAfterPct: 0.4, passed: true, due: '2026-11-24' }
const unit = (number: number, more: Partial<NonNullable<MeteredUnit['calibration']>> | null = {}): MeteredUnit => ({
  id: `u${number}`,
  number,
  name: `Lamp ${number}`,
  calibration: more && { ...calibration, ...more },
})
const row = (n: number) => within(screen.getAllByRole('row')[n] as HTMLElement)

describe('calibrations beside each other', () => {
  test('what nobody verified is not within limits, and what was never calibrated has no number', () => {
    render(
      <CalibrationTable
        rows={[unit(1), unit(2, { passed: null }), unit(3, { passed: false }), unit(4, null)]}
        today="2026-11-24"
      />,
    )
    expect(row(1).getByText('within limits')).toBeTruthy()
    expect(row(2).getByText('no verify point')).toBeTruthy()
    expect(row(3).getByText('outside')).toBeTruthy()
    expect(row(4).getByText('not calibrated')).toBeTruthy()
    expect(row(4).queryByText(/1\.034/)).toBeNull()
  })
  test('one is due from the day after its day, which stands there in words', () => {
    render(
      <CalibrationTable rows={[unit(1), unit(2, { due: '2026-11-23' }), unit(3, { due: null })]} today="2026-11-24" />,
    )
    expect(row(1).getByText('24 Nov 2026')).toBeTruthy()
    expect(row(1).queryByText('due')).toBeNull()
    expect(row(2).getByText('due')).toBeTruthy()
    expect(row(3).queryByText('due')).toBeNull()
  })
})

describe('each calibration drawn small', () => {
  const plot = (n: number, after: (number | null)[]) => ({
    unitId: `u${n}`,
    points: after.map((a, i) => ({ x: i + 1, before: 3, after: a, verify: false })),
  })
  test('in the order of the units, those without points left out', () => {
    render(<Plots units={[unit(1), unit(2), unit(3)]} plots={[plot(3, [0.2]), plot(2, []), plot(1, [-0.5, 0.1])]} />)
    expect(screen.getAllByRole('img').map((d) => d.getAttribute('aria-label'))).toEqual([
      'Unit 1: 2 points, worst after 0.50 %',
      'Unit 3: 1 point, worst after 0.20 %',
    ])
  })
  test('points that no fit judged have no worst one: none is nought by that', () => {
    render(<Plots units={[unit(1)]} plots={[plot(1, [null, null])]} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe('Unit 1: 2 points, not fitted')
  })
})
