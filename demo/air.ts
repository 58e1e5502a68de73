import { connect } from '../server/db/client'
import { standInBroker } from '../standins/air/broker'
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
let ending = false
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => {
    if (ending) return
    ending = true
    setTimeout(() => process.exit(0), 2000).unref()
    void Promise.all(playing.map((p) => p.end()))
      .then(() => broker.end())
      .then(() => process.exit(0))
  })
