import mqtt from 'mqtt'
import { connect } from '../server/db/client'
import { standInBroker } from '../standins/air/broker'
import { readOrder, standInTopic } from '../standins/air/orders'
import { VirtualUnitOnAir } from '../standins/air/plug'
import { seededRandom } from '../standins/random'
import { standInUnits } from './on-air'

/** The demo's air: a broker on loopback, and a virtual unit for each that serves there. PORT names the broker's port. */
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set: start with bin/start --demo')
const broker = await standInBroker(Number(process.env.PORT ?? 0))
const { db, end } = connect(url)
const units = await standInUnits(db)
await end()
const random = seededRandom(7)
const mostPlaying = 200
const address = `mqtt://127.0.0.1:${broker.port}`
const playing = units.map((u) => new VirtualUnitOnAir(address, u, random))
// Two that nobody has planned.
for (const stranger of ['yard/lantern/plug-4f21', 'yard/lantern/plug-90c7'])
  playing.push(
    new VirtualUnitOnAir(
      address,
      { topic: stranger, firmware: '1.4.0', channels: ['1'], watts: 30, everyS: 47, rssi: -70, ip: '192.168.71.139' },
      random,
    ),
  )
// What is pressed on the pages of the demo: a button of a unit, a new unit that comes on the air.
const control = mqtt.connect(address, { reconnectPeriod: 3000 })
control.on('connect', () => control.subscribe(`${standInTopic}/+`, { qos: 1 }))
control.on('error', () => {})
control.on('message', (topic, payload) => {
  const order = readOrder(topic, payload.toString())
  if (!order) return
  const unit = playing.find((p) => p.topic === order.topic)
  if (order.act === 'press') unit?.press(order.channel)
  else if (!unit && playing.length < mostPlaying)
    playing.push(
      new VirtualUnitOnAir(
        address,
        {
          topic: order.topic,
          firmware: '9.4.1',
          channels: order.channels,
          watts: 40,
          everyS: 30,
          rssi: -62,
          ip: order.ip,
        },
        random,
      ),
    )
})
let ending = false
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => {
    if (ending) return
    ending = true
    setTimeout(() => process.exit(0), 2000).unref()
    control.end(true)
    void Promise.all(playing.map((p) => p.end()))
      .then(() => broker.end())
      .then(() => process.exit(0))
  })
