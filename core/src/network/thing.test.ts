import { computed } from '../testing/like'
import { thingOf } from './thing'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const request = {
  unit: {
    id: 'LY-07',
    number: 7,
    uuid: '5b1c2f0e-7d3a-4c55-9a10-2f6d8e0b7c41',
    name: 'Glue pot',
    room: 'workshop',
    channels: [{ slug: '1', name: 'Outlet' }],
    meter: true,
    firmware: '1.5.1',
  },
  mqtt: { host: '192.168.71.2', prefix: 'yard/lantern/glue-pot-7' },
  http: { base: 'http://192.168.71.40' },
  security: 'basic',
}

test('the worked example, whole', () =>
  expect(JSON.stringify(computed(thingOf(request)))).toBe(
    '{"@context":["https://www.w3.org/2022/wot/td/v1.1",{"mqv":"https://www.w3.org/2019/wot/mqtt#"}],"id":"urn:uuid:5b1c2f0e-7d3a-4c55-9a10-2f6d8e0b7c41","title":"Glue pot","securityDefinitions":{"basic":{"scheme":"basic","in":"header"}},"security":["basic"],"properties":{"on":{"title":"Outlet","type":"boolean","readOnly":false,"writeOnly":false,"observable":true,"forms":[{"href":"mqtt://192.168.71.2:1883","op":["readproperty","observeproperty"],"contentType":"application/json","mqv:controlPacket":"subscribe","mqv:filter":"yard/lantern/glue-pot-7/1/state","mqv:qos":"1","mqv:retain":true},{"href":"mqtt://192.168.71.2:1883","op":["writeproperty"],"contentType":"application/json","mqv:controlPacket":"publish","mqv:topic":"yard/lantern/glue-pot-7/1/set","mqv:qos":"1","mqv:retain":false},{"href":"http://192.168.71.40/channels/1/on","op":["readproperty","writeproperty"],"contentType":"application/json"}]},"power":{"title":"Power","type":"number","unit":"W","minimum":0,"readOnly":true,"observable":true,"forms":[{"href":"mqtt://192.168.71.2:1883","op":["observeproperty"],"contentType":"application/json","mqv:controlPacket":"subscribe","mqv:filter":"yard/lantern/glue-pot-7/power","mqv:qos":"0","mqv:retain":false},{"href":"http://192.168.71.40/power","op":["readproperty"],"contentType":"application/json"}]},"meter":{"title":"Meter","type":"object","properties":{"V":{"type":"number","unit":"V"},"I":{"type":"number","unit":"A"},"P":{"type":"number","unit":"W"},"E":{"type":"number","unit":"kW.h"}},"readOnly":true,"observable":true,"forms":[{"href":"mqtt://192.168.71.2:1883","op":["observeproperty"],"contentType":"application/json","mqv:controlPacket":"subscribe","mqv:filter":"yard/lantern/glue-pot-7/meter","mqv:qos":"0","mqv:retain":false},{"href":"http://192.168.71.40/meter","op":["readproperty"],"contentType":"application/json"}]},"online":{"title":"Online","type":"integer","enum":[0,1],"readOnly":true,"observable":true,"forms":[{"href":"mqtt://192.168.71.2:1883","op":["readproperty","observeproperty"],"contentType":"application/json","mqv:controlPacket":"subscribe","mqv:filter":"yard/lantern/glue-pot-7/online","mqv:qos":"1","mqv:retain":true}]}},"description":"No. 7, workshop","version":{"instance":"1.5.1"}}',
  ))

test('over HTTP alone nothing is observed and nobody is online; several channels have names of their own', () => {
  const thing = computed(
    thingOf({
      ...request,
      mqtt: null,
      security: null,
      unit: { ...request.unit, meter: false, channels: [{ slug: 'warm' }, { slug: 'cool' }] },
    }),
  )
  expect(Object.keys(thing.properties as object)).toEqual(['on-warm', 'on-cool'])
  expect(thing).toMatchObject({ security: ['nosec'], properties: { 'on-warm': { title: 'On', observable: false } } })
})

test('another port and another scheme under TLS', () => {
  const thing = computed(thingOf({ ...request, mqtt: { ...request.mqtt, tls: true } }))
  expect(JSON.stringify(thing)).toContain('mqtts://192.168.71.2:8883')
})

test('bad input at its place', () => {
  expect(fault(thingOf({ ...request, mqtt: null, http: null }))).toBe('empty ')
  expect(fault(thingOf({ ...request, unit: { ...request.unit, channels: [] } }))).toBe('empty /unit/channels')
  expect(fault(thingOf({ ...request, unit: { ...request.unit, uuid: request.unit.uuid.toUpperCase() } }))).toBe(
    'input /unit/uuid',
  )
  expect(fault(thingOf({ ...request, mqtt: { ...request.mqtt, port: 0 } }))).toBe('range /mqtt/port')
})
