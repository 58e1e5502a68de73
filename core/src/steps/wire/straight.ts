import type { Adapter, UnitView } from '../../unit/view'
import { jigOf } from './facts'

/** An adapter of the kit that plugs straight on to the row. */
export interface StraightWay {
  adapter: Adapter
  face: 'top' | 'bottom'
  /** Pins to bend away and insulate. */
  bend: number
}

/** Which adapters of the kit plug straight on, on which side; the fewest bent pins first. The whole kit is tried, not only what is chosen. */
export function straightWays(view: UnitView, adapters: readonly Adapter[]): StraightWay[] {
  const wire = view.records.wire
  return adapters
    .flatMap((adapter) =>
      (['top', 'bottom'] as const).flatMap((face): StraightWay[] => {
        const data = { ...wire.data, plugFace: face, adapterId: adapter.id }
        const plan = jigOf({ ...view, adapter, records: { ...view.records, wire: { ...wire, data } } })
        return plan?.straight ? [{ adapter, face, bend: plan.straight.bend.length }] : []
      }),
    )
    .sort((a, b) => a.bend - b.bend)
}
