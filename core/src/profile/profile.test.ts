import fc from 'fast-check'
import { computed } from '../testing/like'
import { hubRender } from './hub'
import { type Phrases, renderItems } from './phrases'
import { settingsRender } from './settings'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const profile = (form: string, phrases: Record<string, string | string[]>, more: object = {}) =>
  ({ format: 'fresh-coat/phrases', version: 1, name: 'P', form, maxLine: 0, phrases, ...more }) as unknown as Phrases
const template = (family: string, pins: object[]) => ({
  format: 'fresh-coat/pin-template',
  version: 1,
  board: 'x',
  family,
  pins,
})

describe('settings: worked examples', () => {
  test('lines, with what the firmware has no word for', () =>
    expect(
      computed(
        settingsRender({
          profile: profile(
            'lines',
            {
              'pin.relay': 'let {gpio} move relay {index}, {active} means on',
              'pin.button': 'let {gpio} hear button {index}',
              'power.last': 'relay {index} wakes as it slept',
              'power.off': 'relay {index} wakes off',
              hold: 'button {index} is long after {ms|s} s',
              'rule.hold.toggle': 'when button {inputIndex} is long, flip relay {index}',
              'rule.short.toggle': 'when button {inputIndex} is short, flip {index}',
            },
            { maxLine: 48 },
          ),
          template: template('LX106', [
            { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
            { pin: 'GPIO12', fn: 'relay', ch: 1 },
            { pin: 'GPIO5', fn: 'relay', ch: 2 },
            { pin: 'GPIO13', fn: 'buzzer' },
          ]),
          behaviour: {
            channels: [{ ch: 1, onPower: 'last' }, { ch: 2 }],
            inputs: [{ id: 'wall', ch: 1, holdMs: 900 }],
            rules: [
              { id: 'foot', when: { input: 'wall', event: 'short' }, do: [{ set: 'toggle', ch: 1 }] },
              { id: 'house', when: { input: 'wall', event: 'hold' }, do: [{ set: 'toggle', ch: 2 }] },
            ],
          },
        }),
      ),
    ).toEqual({
      text: 'let 0 hear button 1\nlet 5 move relay 2, high means on\nlet 12 move relay 1, high means on\nrelay 1 wakes as it slept\nrelay 2 wakes off\nbutton 1 is long after 0.9 s\nwhen button 1 is short, flip 1\nwhen button 1 is long, flip relay 2',
      notExpressible: [{ key: 'pin.buzzer', on: 'GPIO13' }],
      problems: [],
      masked: [],
    }))
  test('a tree', () =>
    expect(
      computed(
        settingsRender({
          profile: profile('yaml', {
            'pin.relay': ['outlets.r{index}.pad = {pin}', 'outlets.r{index}.rest = {active|01}'],
            motor: [
              'drives.{id}.open-seconds = {openMs|s}',
              'drives.{id}.close-seconds = {closeMs|s}',
              'drives.{id}.relays = {open}+{close}',
            ],
            'power.off': 'outlets.r{index}.wake = off',
          }),
          template: template('ARM968-B', [
            { pin: 'P24', fn: 'relay', ch: 1 },
            { pin: 'P26', fn: 'relay', ch: 2 },
          ]),
          behaviour: {
            channels: [{ ch: 1 }, { ch: 2 }],
            interlock: [{ chs: [1, 2], deadMs: 600 }],
            motors: [{ id: 'curtain', open: 1, close: 2, openMs: 21_080, closeMs: 18_490 }],
          },
        }),
      ),
    ).toMatchObject({
      text: 'outlets:\n  r1:\n    pad: P24\n    rest: 1\n    wake: "off"\n  r2:\n    pad: P26\n    rest: 1\n    wake: "off"\ndrives:\n  curtain:\n    open-seconds: 21.08\n    close-seconds: 18.49\n    relays: "1+2"',
      notExpressible: [{ key: 'interlock', on: '1,2' }],
      problems: [],
    }))
  test('a list to tick off', () =>
    expect(
      computed(
        settingsRender({
          profile: profile(
            'checklist',
            {
              'pin.cool': 'Pin page: {pin} is cool white, slot {index|z2}',
              'pin.warm': 'Pin page: {pin} is warm white, slot {index|z2}',
            },
            { maxLine: 60 },
          ),
          template: template('CM3', [
            { pin: 'PB15', fn: 'warm', ch: 1 },
            { pin: 'PB14', fn: 'cool', ch: 1 },
          ]),
        }),
      ).text,
    ).toBe('[ ] Pin page: PB14 is cool white, slot 01\n[ ] Pin page: PB15 is warm white, slot 01'))
  const led = template('LX106', [{ pin: 'GPIO2', fn: 'led' }])
  const phrase = (text: string, more: object = {}) =>
    fault(settingsRender({ profile: profile('lines', { 'pin.led': text }, more), template: led }))
  test('a placeholder nobody knows, a stray brace, a filter of one’s own', () => {
    for (const text of [
      'let {gpio} shine {colour}',
      'a } b',
      'a { b',
      '{gpio|rot13}',
      '{gpio|up|low}',
      '{ gpio }',
      '{{gpio}',
    ])
      expect([text, phrase(text)]).toEqual([text, 'placeholder /profile/phrases/pin.led'])
    expect(phrase('{{{gpio}}} {{x}}')).toBe('ok')
  })
  test('a profile of another kind', () => {
    expect(phrase('x', { format: 'other' })).toBe('format /profile/format')
    expect(phrase('x', { form: 'xml' })).toBe('form /profile/form')
    expect(phrase('x', { form: 'yaml' })).toBe('phrase /profile/phrases/pin.led')
    expect(phrase('x', { version: 2 })).toBe('version /profile/version')
  })
})

describe('connection', () => {
  const words = {
    'net.first': 'air {ssid} key {password}',
    'net.name': 'call me {host}',
    'mqtt.server': 'post {host}:{port}',
  }
  const connection = {
    ssid: 'Lantern',
    passwordRef: 's1',
    host: 'pot-7',
    mqtt: { host: '192.168.71.2', topic: 'yard' },
  }
  const render = (more: object = {}, phrases: object = {}) =>
    settingsRender({
      profile: profile('lines', { ...words, ...phrases }, { maxLine: 48, join: '; ' }),
      connection: { ...connection, ...more },
    })
  test('the worked example: joined within a line, the password covered', () =>
    expect(computed(render())).toEqual({
      text: 'air Lantern key •••; call me pot-7\npost 192.168.71.2:1883',
      notExpressible: [{ key: 'mqtt.topic', on: 'connection' }],
      problems: [],
      masked: ['net.first'],
    }))
  test('no half lines: a phrase that wants what was not given is left out whole, and says what', () =>
    expect(computed(render({ passwordRef: null, mqtt: null }, { 'net.name': '{host} is {name}' }))).toMatchObject({
      text: '',
      notExpressible: [
        { key: 'net.first', on: 'connection', missing: ['password'] },
        { key: 'net.name', on: 'connection', missing: ['name'] },
      ],
      masked: [],
    }))
  test('the port of TLS is another, and what an interface is goes under its name', () =>
    expect(
      computed(
        render(
          {
            ssid: null,
            host: null,
            mqtt: { host: 'h', topic: 't', tls: true },
            reportSeconds: 30,
            interfaces: [{ id: 'web', on: false }],
          },
          {
            'mqtt.tls': 'seal {state}',
            report: 'tell every {s}',
            'iface.web': 'web {state}',
            'mqtt.topic': 'on {topic}',
          },
        ),
      ).text,
    ).toBe('post h:8883; on t; seal on; tell every 30\nweb off'))
  test('bounds', () => {
    expect(fault(render({ ssid: 'ä'.repeat(17) }))).toBe('range /connection/ssid')
    expect(fault(render({ mqtt: { host: 'h', topic: 't', port: 0 } }))).toBe('range /connection/mqtt/port')
    expect(fault(render({ reportSeconds: 0.5 }))).toBe('range /connection/reportSeconds')
  })
})

describe('hub', () => {
  const words = profile('yaml', {
    'entity.switch': 'boards.{slug}.hear = {state}',
    'entity.sensor': 'boards.{slug}.unit = {unit}',
  })
  const pot = { kind: 'switch', name: 'Glue pot', slug: 'pot-7', stateTopic: 'yard/7' }
  test('the worked example', () =>
    expect(
      computed(hubRender({ profile: words, entities: [pot, { kind: 'sensor', name: 'Power', slug: 'power-7' }] })),
    ).toMatchObject({
      text: 'boards:\n  pot-7:\n    hear: yard/7',
      notExpressible: [{ key: 'entity.sensor', on: 'power-7', missing: ['unit'] }],
    }))
  test('nothing to tell is refused; so is another kind of thing, and two values for one place', () => {
    expect(fault(hubRender({ profile: words, entities: [] }))).toBe('empty /entities')
    expect(fault(hubRender({ profile: words, entities: [{ ...pot, kind: 'oven' }] }))).toBe('shape /entities/0/kind')
    expect(fault(hubRender({ profile: words, entities: [pot, pot] }))).toBe('clash /profile/phrases/entity.switch')
    expect(fault(hubRender({ profile: words, entities: [{ ...pot, stateTopic: 'x'.repeat(65) }] }))).toBe(
      'value /profile/phrases/entity.switch',
    )
    expect(fault(hubRender({ profile: words, entities: [{ ...pot, stateTopic: 'a\nb' }] }))).toBe(
      'value /profile/phrases/entity.switch',
    )
  })
})

describe('whatever a value holds', () => {
  const value = fc.string({ maxLength: 64 })
  test('it never leaves its line', () =>
    fc.assert(
      fc.property(value, value, (a, b) => {
        const items = [
          { key: 'k', on: 'x', values: { a, b } },
          { key: 'k', on: 'y', values: { a: b, b: a } },
        ]
        let text: string
        try {
          ;({ text } = renderItems(profile('lines', { k: 'say {a} and {b}' }), items))
        } catch (cause) {
          expect(cause).toMatchObject({ code: 'value' })
          return
        }
        expect(text.split('\n')).toEqual([`say ${a} and ${b}`, `say ${b} and ${a}`])
      }),
    ))
  test('in a tree it is one value at its place', () =>
    fc.assert(
      fc.property(value, (a) => {
        let text: string
        try {
          ;({ text } = renderItems(profile('yaml', { k: 'x.z = {a}' }), [{ key: 'k', on: 'x', values: { a } }]))
        } catch (cause) {
          expect(cause).toMatchObject({ code: 'value' })
          return
        }
        const lines = text.split('\n')
        expect(lines).toHaveLength(2)
        const shown = (lines[1] as string).replace('  z: ', '')
        expect(shown.startsWith('"') ? JSON.parse(shown) : shown).toBe(a)
      }),
    ))
})

test('a line longer than there may be is said with its place', () =>
  expect(
    renderItems(profile('lines', { k: '{a}' }, { maxLine: 3 }), [
      { key: 'k', on: 'x', values: { a: 'abc' } },
      { key: 'k', on: 'x', values: { a: 'abcd' } },
    ]).problems,
  ).toEqual([{ line: 2, length: 4, max: 3 }]))
