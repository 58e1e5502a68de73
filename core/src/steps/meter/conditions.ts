import { dayOf, dayWords } from '../../edge/day'
import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { calibrationDue, newestCalibrations, type Quantity, quantityNames, savedFrom } from './quantity'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  if (view.records.meter.data.noMeter || view.board?.hasMeter === false) return [must(true, 'It has no meter.', '', '')]
  const last = view.calibrations[0]
  const newest = newestCalibrations(view)
  const outside = newest.find((c) => c.passed === false)
  const due = calibrationDue(view)
  const of = (c: { quantity: string } | undefined) =>
    c && newest.length > 1 ? ` of ${quantityNames[c.quantity as Quantity] ?? c.quantity}` : ''
  return [
    must(
      last !== undefined,
      last ? `Calibrated ${dayWords(dayOf(last.at, view.zone))}.` : '',
      'It is not calibrated.',
      'Take points and save the fit.',
    ),
    must(
      outside === undefined,
      'Within its limits.',
      `The verify point${of(outside)} is outside the limits.`,
      'Look at the points and fit again.',
    ),
    must(
      due === null || due >= view.today,
      `Next re-check ${due ? dayWords(due) : 'not set'}.`,
      `The re-check${of(newest.find((c) => c.due === due))} was due ${dayWords(due ?? '')}.`,
      'Take the points again.',
    ),
  ]
}

/** Asked of a calibration that was begun anew while an older one still holds: what lies on the bench is saved first. */
export const asked = (view: UnitView): Condition[] => {
  const { data } = view.records.meter
  const begun = !data.noMeter && view.calibrations.length > 0 && data.points.length > 0
  return begun && savedFrom(view, data) === null
    ? [
        must(
          false,
          'What was taken is saved.',
          'What was taken since the last calibration is not saved.',
          'Finish it and save it, or undo it.',
        ),
      ]
    : []
}
