import { renderSettings } from '../profile/settings'
import { airShape, connectionOf, noAir, readAir } from './air'

const air = airShape.parse({ ssid: 'Lantern', broker: { host: '192.168.71.2' }, reportSeconds: 60 })
const unit = { topic: 'yard/lantern/pot-7', name: 'Pot 7', wifiSecret: 's1', secondSecret: null, broker: null }
const phrases = {
  format: 'fresh-coat/phrases',
  version: 1,
  name: 'Plainsong',
  form: 'lines' as const,
  phrases: {
    'net.first': 'air {ssid} key {password}',
    'net.name': 'call me {host}',
    'mqtt.server': 'post {host}:{port}',
    'mqtt.topic': 'as {topic}',
    report: 'tell every {s} s',
  },
} as unknown as Parameters<typeof renderSettings>[0]

test('a site that has said nothing tells nothing, and what was stored badly is none', () => {
  expect(connectionOf(noAir, unit)).toBeNull()
  for (const bad of [undefined, null, 'x', { ssid: 'ä'.repeat(17) }, { broker: { port: 0 } }])
    expect(readAir(bad)).toEqual(noAir)
  expect(readAir({ ssid: 'Lantern' }).ssid).toBe('Lantern')
})

test('the last level of its topic is its host name; secrets stay covered until they are shown, and then stand in their place', () => {
  const connection = connectionOf(air, unit)
  const text = (shown?: Record<string, string>) => {
    const out = renderSettings(phrases, { template: null, behaviour: null, connection, ...(shown ? { shown } : {}) })
    if (!out.ok) throw new Error(JSON.stringify(out.faults))
    return out.value
  }
  expect(text().text.split('\n')).toEqual([
    'air Lantern key •••',
    'call me pot-7',
    'post 192.168.71.2:1883',
    'as yard/lantern/pot-7',
    'tell every 60 s',
  ])
  expect(text().masked).toEqual(['net.first'])
  expect(text({ s1: 'paper moon' }).text).toContain('air Lantern key paper moon')
  // One that was shown of another unit fills nothing here.
  expect(text({ s2: 'paper moon' }).text).toContain('key •••')
})

test('a second network has a password of its own: that of the first is never told for it', () => {
  const two = { ...air, ssid2: 'Foyer' }
  expect(connectionOf(two, unit)).toMatchObject({ passwordRef: 's1', ssid2: 'Foyer', password2Ref: null })
  expect(connectionOf(two, { ...unit, secondSecret: 's2' })?.password2Ref).toBe('s2')
})

test('TLS goes to its own port, and without a topic there is nothing to tell the broker', () => {
  const tls = { ...air, broker: { ...air.broker, tls: true } }
  expect(connectionOf(tls, unit)?.mqtt).toMatchObject({ tls: true, port: null })
  expect(connectionOf(air, { ...unit, topic: null })?.mqtt).toBeNull()
})
