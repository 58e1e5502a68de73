import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import Ajv from 'ajv'
import addFormats from 'ajv-formats'
import fc from 'fast-check'
import { thingOf } from './thing'

/** Held against the published JSON Schema of Thing Descriptions 1.1. */
const schema = JSON.parse(
  readFileSync(
    join(__dirname, '../../../node_modules/wot-thing-description-types/schema/td-json-schema-validation.json'),
    'utf8',
  ),
)
const ajv = new Ajv({ strict: false })
addFormats(ajv)
const valid = ajv.compile(schema)

const slug = fc.stringMatching(/^[a-z0-9]{1,8}(-[a-z0-9]{1,8})?$/)
const unit = fc.record({
  id: slug,
  number: fc.integer({ min: 0, max: 9999 }),
  uuid: fc.uuid(),
  name: fc.string({ minLength: 1, maxLength: 40 }).filter((s) => s.trim() !== ''),
  room: fc.option(fc.string({ maxLength: 20 })),
  firmware: fc.option(fc.constantFrom('1.5.1', '2.0.0-rc1')),
  channels: fc.uniqueArray(fc.record({ slug, name: fc.option(fc.constantFrom('Warm', 'Cool')) }), {
    minLength: 1,
    maxLength: 4,
    selector: (c) => c.slug,
  }),
  meter: fc.boolean(),
})
const mqtt = fc.record({
  host: fc.constantFrom('192.168.71.2', 'broker.lan'),
  port: fc.option(fc.integer({ min: 1, max: 65_535 })),
  tls: fc.boolean(),
  prefix: fc.constant('yard/lantern/glue-pot'),
})
const http = fc.record({ base: fc.constantFrom('http://192.168.71.40', 'http://glue-pot.lan:8080') })

test('whatever a unit is, its description is one by the published schema', () =>
  fc.assert(
    fc.property(
      unit,
      fc.option(mqtt),
      fc.option(http),
      fc.constantFrom('nosec' as const, 'basic' as const),
      (u, m, h, security) => {
        const made = thingOf({ unit: u, mqtt: m, http: h, security })
        if (!made.ok) return expect(m === null && h === null).toBe(true)
        expect(valid(made.value) ? [] : valid.errors).toEqual([])
      },
    ),
    { numRuns: 200 },
  ))

test('the schema refuses what is no description', () => {
  const made = thingOf({
    unit: { id: 'x', number: 1, uuid: '5b1c2f0e-7d3a-4c55-9a10-2f6d8e0b7c41', name: 'x', channels: [{ slug: '1' }] },
    http: { base: 'http://192.168.71.40' },
  })
  if (!made.ok) throw new Error('no description')
  expect(valid({ ...(made.value as object), security: undefined, title: 7 })).toBe(false)
})
