import { unit } from '../testing/a-unit'
import { channelsOnAir, channelsOrOne, metersOnAir } from './on-air'
import { emptyRecord } from './records'

test('what is switched over the air is what its behaviour names, else what its pins have', () => {
  const relays = { pins: [1, 2].map((ch) => ({ pin: `P${ch}`, fn: 'relay', ch })) }
  const pins = { ...emptyRecord('pins'), template: relays as never }
  expect(channelsOnAir(unit())).toEqual([])
  expect(channelsOrOne(unit())).toEqual(['1'])
  expect(channelsOnAir(unit({ pins }))).toEqual(['1', '2'])
  expect(channelsOrOne(unit({ pins }))).toEqual(['1', '2'])
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
