import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  if (view.records.meter.data.noMeter || view.board?.hasMeter === false) return [must(true, 'It has no meter.', '', '')]
  const last = view.calibrations[0]
  return [
    must(
      last !== undefined,
      `Calibrated ${last?.at.slice(0, 10)}.`,
      'It is not calibrated.',
      'Take points and save the fit.',
    ),
    must(
      last === undefined || last.passed !== false,
      'Within its limits.',
      'The verify point is outside the limits.',
      'Look at the points and fit again.',
    ),
    must(
      last === undefined || last.due === null || last.due >= view.today,
      `Next re-check ${last?.due ?? 'not set'}.`,
      `The re-check was due ${last?.due}.`,
      'Take the points again.',
    ),
  ]
}
