import { thingOf } from '../network/thing'
import { firmwareOf } from '../steps/write/facts'
import type { Air } from './air'
import { channelsOrOne, metersOnAir } from './on-air'
import type { UnitView } from './view'

/** What the Thing Description of a unit is made of: its record and what the site says of the air. Never a credential. */
export function thingOfUnit(view: UnitView, air: Air): ReturnType<typeof thingOf> {
  const address = view.records.join.data.address.trim()
  const { broker } = air
  return thingOf({
    unit: {
      id: `unit-${view.number}`,
      number: view.number,
      uuid: view.id.toLowerCase(),
      name: view.name,
      room: view.place || null,
      firmware: firmwareOf(view) || null,
      channels: channelsOrOne(view).map((slug) => ({ slug, name: null })),
      meter: metersOnAir(view),
    },
    mqtt:
      broker.host && view.topic ? { host: broker.host, port: broker.port, tls: broker.tls, prefix: view.topic } : null,
    http: address ? { base: `http://${address}` } : null,
    security: broker.user ? 'basic' : 'nosec',
  })
}
