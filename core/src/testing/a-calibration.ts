import type { Calibration } from '../unit/view'

/** A calibration of power that passed and is due in a year; what matters to a test is said over it. */
export const aCalibration = (more: Partial<Calibration> = {}): Calibration => ({
  id: 'c',
  at: '2026-05-01T10:00:00Z',
  quantity: 'P',
  model: 'gain',
  gain: 1.04,
  offset: 0,
  plainGain: more.gain ?? 1.04,
  passed: true,
  worstAfterPct: 0.1,
  due: '2027-05-01',
  firmware: '',
  ...more,
})
