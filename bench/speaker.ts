import mqtt from 'mqtt'
import { standInBroker } from '../standins/air/broker'

/** A broker and units that speak so much a second: states at QoS 1, readings at QoS 0. Says what the last state of each was. */
const [units, aSecond, seconds] = process.argv.slice(2).map(Number) as [number, number, number]
const broker = await standInBroker()
console.log(`port ${broker.port}`)
await new Promise<void>((done) => process.stdin.once('data', () => done()))
const client = await mqtt.connectAsync(`mqtt://127.0.0.1:${broker.port}`, { protocolVersion: 4 })
const last: Record<number, boolean> = {}
let sent = 0
const slice = 20
for (let t = 0; t < seconds * 1000; t += slice) {
  const next = performance.now() + slice
  for (let i = 0; i < (aSecond * slice) / 1000; i++, sent++) {
    const unit = sent % units
    const topic = `yard/lantern/lamp-${unit}`
    if (sent % 20 === 0) {
      last[unit] = Math.random() < 0.5
      client.publish(`${topic}/1/state`, String(last[unit]), { qos: 1, retain: true })
    } else client.publish(`${topic}/power`, String(sent % 900), { qos: 0 })
  }
  const rest = next - performance.now()
  await new Promise((done) => setTimeout(done, Math.max(0, rest)))
}
// Every unit says once more what it is.
for (let unit = 0; unit < units; unit++) {
  last[unit] ??= true
  await client.publishAsync(`yard/lantern/lamp-${unit}/1/state`, String(last[unit]), { qos: 1, retain: true })
}
console.log(`last ${JSON.stringify(last)}`)
console.log(`done ${sent}`)
