import type { Instrument, UnitView } from '../../unit/view'

/** The lower of what is written on this unit and what its board is known for, in A. */
export const ratedAmpsOf = (view: UnitView): number | null =>
  view.records.arrive.data.ratedAmps ?? view.board?.ratedAmps ?? null

/** Voltage the unit runs on: its own when it is on record, else the mains of the site. */
export const supplyVoltsOf = (view: UnitView): number => view.records.arrive.data.mainsVolts ?? view.mainsVolts

/**
 * What a fit is made of: the points that are whole, and what the record, the unit and the reference say about them. The page
 * shows the fit of this, and saving keeps it.
 */
export function fitInputOf(
  view: UnitView,
  reference: Pick<Instrument, 'gainPct' | 'digits' | 'resolution'>,
  day = view.today,
) {
  const m = view.records.meter.data
  const amps = ratedAmpsOf(view)
  const volts = supplyVoltsOf(view)
  return {
    quantity: m.quantity,
    reference: { gainPct: reference.gainPct, digits: reference.digits, resolution: reference.resolution },
    indicatedResolution: m.indicatedResolution,
    points: m.points.flatMap((p) =>
      p.indicated === null || p.reference === null ? [] : [{ ...p, indicated: p.indicated, reference: p.reference }],
    ),
    load: { kind: m.loadKind, warm: m.warm },
    limits: { pct: m.limitPct, abs: m.limitAbs },
    zeroReadings: m.zeros,
    model: m.model,
    rated: amps === null ? null : { P: amps * volts, I: amps },
    date: day,
    recheckMonths: m.recheckMonths,
  }
}
