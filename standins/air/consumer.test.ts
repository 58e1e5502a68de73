import { thingOf } from '@fresh-coat/core/network/thing'
import { HttpClientFactory } from '@node-wot/binding-http'
import { MqttClientFactory } from '@node-wot/binding-mqtt'
import { Servient } from '@node-wot/core'
import { type StandInBroker, standInBroker } from './broker'
import { unitPages } from './page'
import { VirtualUnitOnAir } from './plug'

/** The Thing Description of a unit in the hands of a consumer that knows nothing of us: it switches the unit by it alone. */

let broker: StandInBroker
let unit: VirtualUnitOnAir
let pages: Awaited<ReturnType<typeof unitPages>>
let servient: Servient
const topic = 'yard/lantern/glue-pot'
const address = () => `mqtt://127.0.0.1:${broker.port}`

beforeEach(async () => {
  broker = await standInBroker()
  unit = new VirtualUnitOnAir(
    address(),
    { topic, firmware: '1.5.1', channels: ['1'], watts: 60, everyS: 30, rssi: -60 },
    () => 0.5,
  )
  pages = await unitPages(unit)
  servient = new Servient()
})
afterEach(async () => {
  await servient.shutdown()
  await unit.end()
  await pages.end()
  await broker.end()
})

type Description = Parameters<Awaited<ReturnType<Servient['start']>>['consume']>[0]
interface Form {
  href: string
  'mqv:filter'?: string
  'mqv:topic'?: string
}

function described(over: 'mqtt' | 'http'): Description {
  const found = thingOf({
    unit: {
      id: 'unit-7',
      number: 7,
      uuid: '5b1c2f0e-7d3a-4c55-9a10-2f6d8e0b7c41',
      name: 'Glue pot',
      channels: [{ slug: '1', name: 'Outlet' }],
      meter: true,
    },
    mqtt: over === 'mqtt' ? { host: '127.0.0.1', port: broker.port, tls: false, prefix: topic } : null,
    http: over === 'http' ? { base: `http://127.0.0.1:${pages.port}` } : null,
    security: 'nosec',
  })
  if (!found.ok) throw new Error(found.faults[0]?.message)
  return structuredClone(found.value) as unknown as Description
}

/** This consumer takes the topic from the path of a form alone, and passes over `mqv:filter` and `mqv:topic` where there is none. */
function withTopicsInPaths(thing: Description): Description {
  for (const property of Object.values((thing as { properties: Record<string, { forms: Form[] }> }).properties))
    for (const form of property.forms) form.href += `/${form['mqv:filter'] ?? form['mqv:topic'] ?? ''}`
  return thing
}

const until = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; i < 100 && !holds(); i++) await new Promise((resolve) => setTimeout(resolve, 50))
  expect(holds()).toBe(true)
}

test('over HTTP: it reads the switch and the power, and switches it', async () => {
  servient.addClientFactory(new HttpClientFactory())
  const thing = await (await servient.start()).consume(described('http'))
  const was = unit.isOn('1')
  expect(await (await thing.readProperty('on')).value()).toBe(was)
  await thing.writeProperty('on', !was)
  expect(unit.isOn('1')).toBe(!was)
  expect(await (await thing.readProperty('on')).value()).toBe(!was)
  expect(await (await thing.readProperty('power')).value()).toBe(was ? 0 : 60)
})

test('over MQTT: it switches it, and hears from the unit that it did', async () => {
  servient.addClientFactory(new MqttClientFactory())
  const thing = await (await servient.start()).consume(withTopicsInPaths(described('mqtt')))
  const heard: unknown[] = []
  await thing.observeProperty('on', async (output) => {
    heard.push(await output.value())
  })
  const was = unit.isOn('1')
  await until(() => heard.length > 0)
  expect(heard).toEqual([was])
  await thing.writeProperty('on', !was)
  await until(() => heard.length > 1)
  expect([unit.isOn('1'), heard.at(-1)]).toEqual([!was, !was])
})
