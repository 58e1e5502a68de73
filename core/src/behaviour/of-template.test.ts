import fc from 'fast-check'
import type { PinTemplate } from '../pins/template'
import { settled } from './definition'
import {
  definitionOf,
  inputsOf,
  loadChannelOf,
  nastyCases,
  outputsOf,
  phasesOf,
  plainCase,
  spansOf,
  strandedRules,
  usualRules,
} from './of-template'
import { runUnit } from './run'

const template = (pins: object[], more: object = {}) =>
  ({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'x',
    family: 'LX106',
    pins,
    ...more,
  }) as unknown as PinTemplate
const night = template([
  { pin: 'GPIO12', fn: 'relay', ch: 1 },
  { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
  { pin: 'GPIO5', fn: 'motion' },
])
const bare = { channels: [], inputs: [], travels: [], bootMs: 300 }

test('inputs have names of their own, outputs are counted once', () => {
  const two = template([
    { pin: 'GPIO4', fn: 'button', ch: 2 },
    { pin: 'GPIO0', fn: 'button', ch: 1 },
    { pin: 'GPIO12', fn: 'latch-set', ch: 1 },
    { pin: 'GPIO13', fn: 'latch-reset', ch: 1 },
    { pin: 'GPIO2', fn: 'led' },
  ])
  expect(inputsOf(two).map((i) => i.id)).toEqual(['button 1', 'button 2'])
  expect(outputsOf(two)).toEqual([1])
  expect(inputsOf(night).map((i) => i.id)).toEqual(['button', 'motion'])
})

test('the usual rules run: a press flips, movement lights for a while', () => {
  const rules = usualRules(night)
  const def = settled(definitionOf(night, { ...bare, rules }))
  const { timeline, until } = plainCase(inputsOf(night))
  const { events } = runUnit(def, timeline, until + 60_000)
  expect(events.map((e) => ('ch' in e ? `${e.to} ${e.why}` : ''))).toEqual(['on button: press', 'off motion: dark'])
})

test('a hold makes its input wait for one, and only then', () => {
  const rules = [{ id: 'h', when: { input: 'button', event: 'hold' as const }, do: [{ set: 'off' as const, ch: 1 }] }]
  expect(definitionOf(night, { ...bare, rules }).inputs?.map((i) => i.holdMs)).toEqual([900, 0])
  expect(definitionOf(night, { ...bare, rules: [] }).inputs?.map((i) => i.holdMs)).toEqual([0, 0])
})

test('a rule whose input or channel went from the template is named', () => {
  const rules = [
    ...usualRules(night),
    { id: 'gone', when: { input: 'switch', event: 'change' as const }, do: [] },
    { id: 'nowhere', when: { boot: true as const }, do: [{ set: 'on' as const, ch: 7 }] },
  ]
  expect(strandedRules(definitionOf(night, { ...bare, rules })).map((r) => r.id)).toEqual(['gone', 'nowhere'])
})

test('every nasty case is a timeline in order that the unit can be run over', () => {
  const def = settled(definitionOf(night, { ...bare, rules: usualRules(night) }))
  for (const { timeline, until } of nastyCases(inputsOf(night))) {
    expect(timeline.every((e, i) => i === 0 || (timeline[i - 1]?.t ?? 0) <= e.t)).toBe(true)
    expect(() => runUnit(def, timeline, until)).not.toThrow()
  }
  expect(nastyCases([])).toEqual([])
})

test('spans cover what is on, and end where the run does', () =>
  fc.assert(
    fc.property(fc.array(fc.nat(9000), { maxLength: 20 }), (times) => {
      const timeline = [...times]
        .sort((a, b) => a - b)
        .map((t, i) => ({ t, input: 'button', level: ((i + 1) % 2) as 0 | 1 }))
      const run = runUnit(settled(definitionOf(night, { ...bare, rules: usualRules(night) })), timeline, 10_000)
      const spans = spansOf(run.events, 10_000)
      for (const [i, s] of spans.entries()) {
        expect(s.to).toBeGreaterThanOrEqual(s.from)
        if (i > 0) expect(s.from).toBeGreaterThanOrEqual(spans[i - 1]?.to ?? 0)
      }
      expect(spans.at(-1)?.ended === '' && spans.length > 0).toBe(run.final['1'] === 'on')
    }),
  ))

test('what a pin does at power-up comes from its family: a heater on a pin that is pulled up may come on', () => {
  const heater = { contact: 'NO' as const, kind: 'heater' as const, wayOut: false, attended: false }
  const channel = loadChannelOf(night, 1, 'off', heater)
  expect(channel).toMatchObject({ bootLevel: 'ru', active: 'high', localInput: true })
  expect(channel && phasesOf(channel).findings.map((f) => f.code)).toContain('heater-on')
  expect(loadChannelOf(night, 9, 'off', heater)).toBeNull()
})
