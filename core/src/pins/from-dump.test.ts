import fc from 'fast-check'
import { bytesOfLatin1 } from '../bytes/text'
import { asAssumed, offeredPins, pinsNamedIn } from './from-dump'
import { PinTemplate } from './template'

const dump = (...texts: string[]) => bytesOfLatin1(`\xff\xff${texts.join('\0\0')}\xff\xff`)
const said = (...texts: string[]) => pinsNamedIn(dump(...texts)).map((p) => `${p.pin} ${p.fn} ${p.ch ?? '-'}`)
const all = new Set(Array.from({ length: 17 }, (_, i) => `GPIO${i}`))

test('a function and a number that is said to be a pin, in either order', () => {
  expect(said('relay1_pin=12', '"led":"gpio13"', 'gpio0: button 1', 'buzzer.gpio = 5')).toEqual([
    'GPIO12 relay 1',
    'GPIO13 led -',
    'GPIO0 button 1',
    'GPIO5 buzzer -',
  ])
})

test('a number that nobody calls a pin is a state, a level or a price, and no pin', () =>
  expect(
    said('relay1=1', 'led=13', 'light level: 40', 'keyboard_pin=3', 'relay_pin=12.5', 'gpio=relay', 'pin: 1234'),
  ).toEqual([]))

test('what looks like a password is covered before anything is looked for', () =>
  expect(said('wifi.pass=relay1_pin=12', 'password=led_gpio=4')).toEqual([]))

test('each says where it stands', () => {
  const [found] = pinsNamedIn(dump('x'.repeat(30), 'name: lamp; relay_pin=12;'))
  expect(found).toMatchObject({ offset: 2 + 30 + 2 + 12, text: 'relay_pin=12' })
})

test('what is named two ways is offered no way; what the family lacks is said', () => {
  const offered = offeredPins(
    pinsNamedIn(dump('relay1_pin=12', 'relay1_pin=12', 'led_pin=13', 'button_pin=13', 'relay2_pin=33')),
    all,
  )
  expect(offered.pins.map((p) => [p.pin, p.times])).toEqual([['GPIO12', 2]])
  expect(offered.contradicted.map((p) => p.fn)).toEqual(['led', 'button'])
  expect(offered.impossible.map((p) => p.pin)).toEqual(['GPIO33'])
})

test('one channel at two pins is a contradiction too; two lights without a number are not', () => {
  const of = (...texts: string[]) => offeredPins(pinsNamedIn(dump(...texts)), all).pins.map((p) => p.pin)
  expect(of('relay1_pin=12', 'relay1_pin=14')).toEqual([])
  expect(of('led_pin=12', 'led_pin=14')).toEqual(['GPIO12', 'GPIO14'])
})

test('taken, they are assumed and carry nobody’s evidence', () => {
  const { pins } = offeredPins(pinsNamedIn(dump('relay1_pin=12')), all)
  const template = PinTemplate.parse({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'x',
    family: 'LX106',
    pins: asAssumed(pins),
  })
  expect(template.pins).toEqual([
    {
      pin: 'GPIO12',
      fn: 'relay',
      ch: 1,
      confidence: 'assumed',
      note: 'named in the stock backup at 0x2: relay1_pin=12',
    },
  ])
})

test('bytes of any kind are read to their end, and give no more than a hundred', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
      for (const found of pinsNamedIn(bytes)) expect(found.pin).toMatch(/^GPIO\d{1,2}$/)
    }),
  )
  expect(pinsNamedIn(dump(...Array.from({ length: 300 }, (_, i) => `relay${i % 90}_pin=${i % 17}`)))).toHaveLength(100)
})
