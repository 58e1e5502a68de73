import { thingOf } from '../network/thing'
import { channelsOf } from '../steps/pins/facts'
import { firmwareOf } from '../steps/write/facts'
import type { Air } from './air'
import type { UnitView } from './view'

/** Slugs of what is switched over the air, as far as anybody said what there is. */
export function channelsOnAir(view: UnitView): string[] {
  const said = view.records.behaviour.data.channels.map((c) => c.ch)
  return (said.length > 0 ? said : channelsOf(view)).map(String)
}

/** Does it say watts? */
export const metersOnAir = (view: UnitView): boolean =>
  view.board?.hasMeter === true && !view.records.meter.data.noMeter

/** What the Thing Description of a unit is made of: its record and what the site says of the air. Never a credential. */
export function thingOfUnit(view: UnitView, air: Air): ReturnType<typeof thingOf> {
  const address = view.records.join.data.address.trim()
  const { broker } = air
  const channels = channelsOnAir(view).map((slug) => ({ slug, name: null }))
  return thingOf({
    unit: {
      id: `unit-${view.number}`,
      number: view.number,
      uuid: view.id.toLowerCase(),
      name: view.name,
      room: view.place || null,
      firmware: firmwareOf(view) || null,
      channels: channels.length > 0 ? channels : [{ slug: '1', name: null }],
      meter: metersOnAir(view),
    },
    mqtt:
      broker.host && view.topic ? { host: broker.host, port: broker.port, tls: broker.tls, prefix: view.topic } : null,
    http: address ? { base: `http://${address}` } : null,
    security: broker.user ? 'basic' : 'nosec',
  })
}
