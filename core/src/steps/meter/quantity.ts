import type { Calibration, UnitView } from '../../unit/view'

/** Power, current and voltage of one unit are calibrated each on its own: points, zeros, steps and limits of one say nothing of another. */

export type Quantity = 'P' | 'I' | 'V'
export const quantityNames: Record<Quantity, string> = { P: 'power', I: 'current', V: 'voltage' }
type Meter = UnitView['records']['meter']['data']
const ownFields = ['points', 'zeros', 'indicatedResolution', 'limitPct', 'limitAbs', 'factor'] as const
type Own = Pick<Meter, (typeof ownFields)[number]>

/** What a quantity begins with: steps and limits of a display of watts, amperes, volts. */
const fresh: Record<Quantity, Own> = {
  P: { points: [], zeros: [], indicatedResolution: 0.1, limitPct: 2, limitAbs: 0.5, factor: null },
  I: { points: [], zeros: [], indicatedResolution: 0.001, limitPct: 2, limitAbs: 0.01, factor: null },
  V: { points: [], zeros: [], indicatedResolution: 0.1, limitPct: 1, limitAbs: 1, factor: null },
}

const ownOf = (data: Own): Own => Object.fromEntries(ownFields.map((f) => [f, data[f]])) as Own

/** What changes in the record when another quantity comes on the bench: the one before is put aside, whole, and comes back as it was. */
export function toQuantity(data: Meter, quantity: Quantity): Partial<Meter> {
  if (quantity === data.quantity) return {}
  const { [quantity]: kept, ...others } = data.aside
  return { quantity, ...(kept ?? fresh[quantity]), aside: { ...others, [data.quantity]: ownOf(data) } }
}

/** The calibration that holds for each quantity: its newest, in the order in which they were made. */
export const newestCalibrations = (view: Pick<UnitView, 'calibrations'>): Calibration[] =>
  view.calibrations.filter((c, i, all) => all.findIndex((other) => other.quantity === c.quantity) === i)

interface Taken {
  points: readonly { indicated: number | null; reference: number | null; role: string }[]
  zeros: readonly number[]
}
/** What was taken on the bench as one text: equal where the points and zeros are, in their order. */
export const takenKey = ({ points, zeros }: Taken): string =>
  JSON.stringify([points.map((p) => [p.indicated, p.reference, p.role]), zeros])

/** The calibration that what lies on the bench went into; null where it was never saved, or changed since. */
export function savedFrom(view: Pick<UnitView, 'calibrations'>, data: Meter): Calibration | null {
  const last = newestCalibrations(view).find((c) => c.quantity === data.quantity)
  return last && data.points.length > 0 && last.taken === takenKey(data) ? last : null
}

/**
 * The bench for another calibration: empty, since points from before the unit was told its factor say nothing of how it is now.
 * What was taken stays with the calibration that was made of it.
 */
export const calibrateAgain = (): Partial<Meter> => ({ points: [], zeros: [], factor: null, warm: false })

/** The day on which the first of them falls due; null where none has one. */
export const calibrationDue = (view: Pick<UnitView, 'calibrations'>): string | null =>
  newestCalibrations(view)
    .flatMap((c) => c.due ?? [])
    .sort()[0] ?? null
