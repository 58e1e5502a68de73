import { unit } from '../testing/a-unit'
import { emptyRecord } from '../unit/records'
import { channelsOnAir, metersOnAir } from '../unit/thing-of-unit'
import { leafWords, topicsOf } from './leaves'

test('channels that have the same leaf stand together, those that a hub goes by first', () => {
  expect(leafWords(['1', '2', '3', '4'], true).map((l) => l.leaf)).toEqual([
    'online',
    '1–4/state',
    '1–4/set',
    'health',
    'meter',
    'power',
    '1–4/event',
  ])
  expect(leafWords(['1'], false).map((l) => l.leaf)).toEqual(['online', '1/state', '1/set', 'health', '1/event'])
  expect(leafWords(['1', '3'], false)[1]?.leaf).toBe('1, 3/state')
  expect(leafWords(['warm', 'cool'], false)[1]?.leaf).toBe('warm, cool/state')
  expect(leafWords([], false).map((l) => l.leaf)).toEqual(['online', 'health'])
})
test('what may be retained is said as the topics have it: a command never is', () => {
  const words = new Map(leafWords(['1'], true).map((l) => [l.leaf.replace('1/', ''), l.way]))
  for (const { leaf, retain } of topicsOf('yard/lantern/lamp', ['1'], true))
    expect(words.get(leaf)).toMatch(retain ? /, retained$/ : /(never|not) retained$/)
  expect(words.get('set')).toBe('in, never retained')
})
test('what is switched over the air is what its behaviour names, else what its pins have', () => {
  const relays = { pins: [1, 2].map((ch) => ({ pin: `P${ch}`, fn: 'relay', ch })) }
  const pins = { ...emptyRecord('pins'), template: relays as never }
  expect(channelsOnAir(unit())).toEqual([])
  expect(channelsOnAir(unit({ pins }))).toEqual(['1', '2'])
  const behaviour = { ...emptyRecord('behaviour'), channels: [{ ch: 2 }] as never }
  expect(channelsOnAir(unit({ pins, behaviour }))).toEqual(['2'])
})
test('watts are said by a board with a meter, unless somebody said that this one has none', () => {
  const { board } = unit()
  const metered = board && { ...board, hasMeter: true }
  expect(metersOnAir(unit({}, { board: metered }))).toBe(metered !== null)
  expect(metersOnAir(unit({ meter: { ...emptyRecord('meter'), noMeter: true } }, { board: metered }))).toBe(false)
  expect(metersOnAir(unit({}, { board: null }))).toBe(false)
})
