import { channelsOf } from '../steps/pins/facts'
import type { UnitView } from './view'

/** What a unit has to say over the air, as far as anybody wrote it down. */

/** Slugs of what is switched: what its behaviour names, else what its pins have; empty where nobody said either. */
export function channelsOnAir(view: UnitView): string[] {
  const said = view.records.behaviour.data.channels.map((c) => c.ch)
  return (said.length > 0 ? said : channelsOf(view)).map(String)
}

/** The same for whoever has to speak to it: a unit of which nobody said anything has one channel. */
export function channelsOrOne(view: UnitView): string[] {
  const channels = channelsOnAir(view)
  return channels.length > 0 ? channels : ['1']
}

/** Does it say watts? */
export const metersOnAir = (view: UnitView): boolean =>
  view.board?.hasMeter === true && !view.records.meter.data.noMeter
