import type { PinTemplate } from '../pins/template'
import { readPhraseLines, writePhraseLines } from './as-lines'
import { entityItem } from './hub'
import { entitiesOf, hubStarts } from './hub-words'
import { renderItems } from './phrases'

const template = (pins: object[], more: object = {}) =>
  ({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'x',
    family: 'LX106',
    pins,
    ...more,
  }) as unknown as PinTemplate
const unit = {
  name: 'Glue pot',
  room: 'workshop',
  topic: 'yard/lantern/glue-pot-7',
  hasMeter: false,
  lamps: new Set<number>(),
  template: template([{ pin: 'GPIO12', fn: 'relay', ch: 1 }]),
}

test('one relay is one switch under the unit’s own name; its power is a number beside it', () => {
  expect(entitiesOf({ ...unit, hasMeter: true })).toMatchObject([
    { kind: 'switch', name: 'Glue pot', slug: 'glue-pot-7', stateTopic: 'yard/lantern/glue-pot-7/1/state', on: 'true' },
    { kind: 'sensor', slug: 'glue-pot-7-power', unit: 'W', stateTopic: 'yard/lantern/glue-pot-7/power' },
  ])
})
test('several channels have numbers, a lamp is a light, a motor is one thing and its relays are none', () => {
  const pins = [1, 2, 3, 4].map((ch) => ({ pin: `GPIO1${ch}`, fn: 'relay', ch }))
  const kinds = entitiesOf({
    ...unit,
    lamps: new Set([3]),
    template: template(pins, { motors: [{ open: 1, close: 2, interlock: true }] }),
  }).map((e) => `${e.kind} ${e.slug}`)
  expect(kinds).toEqual(['light glue-pot-7-3', 'switch glue-pot-7-4', 'cover glue-pot-7-1'])
})
test('without a name or pins there is nothing to tell', () => {
  expect(entitiesOf({ ...unit, topic: null })).toEqual([])
  expect(entitiesOf({ ...unit, template: null })).toEqual([])
})
test('every start that ships can be filled, and says what it cannot say', () => {
  for (const { phrases } of hubStarts) {
    const { text } = renderItems(phrases, entitiesOf({ ...unit, hasMeter: true }).map(entityItem))
    expect(text).toContain('yard/lantern/glue-pot-7/1/state')
  }
})

describe('phrases as lines', () => {
  test('what is written is read again, several of one key too', () => {
    for (const { phrases } of hubStarts) {
      const read = readPhraseLines(writePhraseLines(phrases.phrases))
      expect(read).toEqual({ phrases: phrases.phrases, fault: null })
    }
  })
  test('a line that is none is named, and nothing is taken silently', () => {
    expect(readPhraseLines('pin.relay: let {gpio}\n\nwhat is this')).toEqual({
      phrases: {},
      fault: 'Line 3 is no phrase: a key, a colon, and what is said.',
    })
    expect(readPhraseLines('')).toEqual({ phrases: {}, fault: null })
  })
})
