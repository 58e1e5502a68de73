import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'

/** A unit as a W3C Thing Description 1.1 (brief 05 §7). Never a credential. */

const ports = { plain: 1883, tls: 8883 }
const vocabulary = 'https://www.w3.org/2019/wot/mqtt#'
const tdContext = 'https://www.w3.org/2022/wot/td/v1.1'
const json = 'application/json'

type Json = Record<string, unknown>
interface Ways {
  mqtt: { href: string; prefix: string } | null
  http: string | null
}

const reading = (ways: Ways, topic: string, qos: '0' | '1', retained: boolean): Json[] =>
  ways.mqtt
    ? [
        {
          href: ways.mqtt.href,
          // Only a retained topic answers who asks now.
          op: retained ? ['readproperty', 'observeproperty'] : ['observeproperty'],
          contentType: json,
          'mqv:controlPacket': 'subscribe',
          'mqv:filter': `${ways.mqtt.prefix}/${topic}`,
          'mqv:qos': qos,
          'mqv:retain': retained,
        },
      ]
    : []
const overHttp = (ways: Ways, path: string, op: string[]): Json[] =>
  ways.http === null ? [] : [{ href: `${ways.http}/${path}`, op, contentType: json }]

function channelProperty(ways: Ways, slug: string, title: string): Json {
  const set = ways.mqtt
    ? [
        {
          href: ways.mqtt.href,
          op: ['writeproperty'],
          contentType: json,
          'mqv:controlPacket': 'publish',
          'mqv:topic': `${ways.mqtt.prefix}/${slug}/set`,
          'mqv:qos': '1',
          'mqv:retain': false,
        },
      ]
    : []
  return {
    title,
    type: 'boolean',
    readOnly: false,
    writeOnly: false,
    observable: ways.mqtt !== null,
    forms: [
      ...reading(ways, `${slug}/state`, '1', true),
      ...set,
      ...overHttp(ways, `channels/${slug}/on`, ['readproperty', 'writeproperty']),
    ],
  }
}

function meterProperties(ways: Ways): Json {
  const observable = ways.mqtt !== null
  const number = (unit: string) => ({ type: 'number', unit })
  return {
    power: {
      title: 'Power',
      type: 'number',
      unit: 'W',
      minimum: 0,
      readOnly: true,
      observable,
      forms: [...reading(ways, 'power', '0', false), ...overHttp(ways, 'power', ['readproperty'])],
    },
    meter: {
      title: 'Meter',
      type: 'object',
      properties: { V: number('V'), I: number('A'), P: number('W'), E: number('kW.h') },
      readOnly: true,
      observable,
      forms: [...reading(ways, 'meter', '0', false), ...overHttp(ways, 'meter', ['readproperty'])],
    },
  }
}

const Request = z
  .object({
    unit: z.object({
      id: z.string(),
      number: z.number().int().min(0),
      uuid: z.string().superRefine((uuid, context) => {
        if (!/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/.test(uuid))
          refuse(context, 'input', [], 'A UUID is lower-case hex.')
      }),
      name: z.string().min(1),
      room: z.string().nullish(),
      firmware: z.string().nullish(),
      channels: z
        .array(z.object({ slug: z.string().min(1), name: z.string().nullish() }))
        .min(1)
        .max(64),
      meter: z.boolean().nullish(),
    }),
    mqtt: z
      .object({
        host: z.string().min(1),
        port: z
          .number()
          .superRefine((n, context) => {
            if (!Number.isInteger(n) || n < 1 || n > 65_535) refuse(context, 'range', [], 'A port is from 1 to 65535.')
          })
          .nullish(),
        tls: z.boolean().nullish(),
        prefix: z.string().min(1),
      })
      .nullish(),
    http: z.object({ base: z.string().min(1) }).nullish(),
    security: z.enum(['nosec', 'basic']).nullish(),
    mqttVocab: z.string().min(1).nullish(),
  })
  .superRefine(({ mqtt, http, unit }, context) => {
    if (!mqtt && !http) refuse(context, 'empty', [], 'Without MQTT and HTTP nothing leads to it.')
    const slugs = new Set<string>()
    for (const [i, { slug }] of unit.channels.entries()) {
      if (slugs.has(slug))
        refuse(context, 'conflict', ['unit', 'channels', i, 'slug'], `The channel ${slug} is there twice.`)
      slugs.add(slug)
    }
  })

/** `thing export`: the Thing Description of a unit. */
export function thingOf(input: unknown): Outcome<Json> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { unit, mqtt, http, mqttVocab } = parsed.value
  const security = parsed.value.security ?? 'nosec'
  const port = mqtt?.port ?? (mqtt?.tls ? ports.tls : ports.plain)
  const ways: Ways = {
    mqtt: mqtt ? { href: `${mqtt.tls ? 'mqtts' : 'mqtt'}://${mqtt.host}:${port}`, prefix: mqtt.prefix } : null,
    http: http ? http.base.replace(/\/+$/, '') : null,
  }
  const one = unit.channels.length === 1
  const properties: Json = {}
  for (const { slug, name } of unit.channels)
    properties[one ? 'on' : `on-${slug}`] = channelProperty(ways, slug, name || 'On')
  if (unit.meter) Object.assign(properties, meterProperties(ways))
  if (ways.mqtt)
    properties.online = {
      title: 'Online',
      type: 'integer',
      enum: [0, 1],
      readOnly: true,
      observable: true,
      forms: reading(ways, 'online', '1', true),
    }
  return {
    ok: true,
    value: {
      '@context': [tdContext, { mqv: mqttVocab ?? vocabulary }],
      id: `urn:uuid:${unit.uuid}`,
      title: unit.name,
      securityDefinitions:
        security === 'basic' ? { basic: { scheme: 'basic', in: 'header' } } : { nosec: { scheme: 'nosec' } },
      security: [security],
      properties,
      ...(unit.room ? { description: `No. ${unit.number}, ${unit.room}` } : {}),
      ...(unit.firmware ? { version: { instance: unit.firmware } } : {}),
    },
  }
}
