import type { PinFunction, PinTemplate } from '../pins/template'
import type { Entity } from './hub'
import type { Phrases } from './phrases'

/** What a unit is to a hub, and three made-up ways of telling one, as a start for a person's own. */

const phrases = (form: Phrases['form'], said: Phrases['phrases'], more: Partial<Phrases> = {}): Phrases => ({
  format: 'fresh-coat/phrases',
  version: 1,
  name: form,
  form,
  maxLine: 0,
  phrases: said,
  ...more,
})

export const hubStarts: readonly { name: string; phrases: Phrases }[] = [
  {
    name: 'a tree, as Mantel takes it',
    phrases: phrases('yaml', {
      'entity.switch': [
        'boards.{slug}.called = {name}',
        'boards.{slug}.hear = {state}',
        'boards.{slug}.tell = {set}',
        'boards.{slug}.alive = {online}',
      ],
      'entity.light': ['lamps.{slug}.called = {name}', 'lamps.{slug}.hear = {state}', 'lamps.{slug}.tell = {set}'],
      'entity.cover': [
        'curtains.{slug}.called = {name}',
        'curtains.{slug}.hear = {state}',
        'curtains.{slug}.tell = {set}',
      ],
      'entity.sensor': ['boards.{slug}.called = {name}', 'boards.{slug}.hear = {state}', 'boards.{slug}.unit = {unit}'],
    }),
  },
  {
    name: 'lines',
    phrases: phrases('lines', {
      'entity.switch': 'there is a switch {slug}, hear {state}, tell {set} {on} or {off}',
      'entity.light': 'there is a lamp {slug}, hear {state}, tell {set} {on} or {off}',
      'entity.sensor': 'there is a number {slug} in {unit}, hear {state}',
    }),
  },
  {
    name: 'a list to tick off',
    phrases: phrases('checklist', {
      'entity.switch': 'Add a switch “{name}”: listens to {state}, sends to {set}',
      'entity.light': 'Add a lamp “{name}”: listens to {state}, sends to {set}',
      'entity.sensor': 'Add a number “{name}” in {unit}: listens to {state}',
      'entity.button': 'Add a button “{name}”: listens to {state}',
    }),
  },
]

const outputs: readonly PinFunction[] = ['relay', 'latch-set', 'dim', 'bright', 'cool', 'red']
const dimmed: ReadonlySet<PinFunction> = new Set(['dim', 'bright', 'cool', 'red'])

export interface HubUnit {
  name: string
  room: string
  /** base/site/slug; null while it has none. */
  topic: string | null
  template: PinTemplate | null
  hasMeter: boolean
  /** Channels with a lamp on them. */
  lamps: ReadonlySet<number>
}

/** A unit as the things that a hub knows: one per channel, a motor as one, its power as a number. */
export function entitiesOf({ name, room, topic, template, hasMeter, lamps }: HubUnit): Entity[] {
  if (!topic || !template) return []
  const slug = topic.split('/').at(-1) ?? topic
  const motors = template.motors ?? []
  const ofMotor = new Set(motors.flatMap((m) => [m.open, m.close]))
  const channels = [...new Set(template.pins.filter((p) => outputs.includes(p.fn)).map((p) => p.ch ?? 1))]
    .filter((ch) => !ofMotor.has(ch))
    .sort((a, b) => a - b)
  const one = channels.length + motors.length === 1
  const base = { room: room || null, onlineTopic: `${topic}/online`, on: 'true', off: 'false' }
  const called = (n: number) => (one ? name : `${name} ${n}`)
  return [
    ...channels.map((ch): Entity => {
      const pin = template.pins.find((p) => outputs.includes(p.fn) && (p.ch ?? 1) === ch)
      const kind = pin && dimmed.has(pin.fn) ? 'dimmer' : lamps.has(ch) ? 'light' : 'switch'
      return {
        kind,
        name: called(ch),
        slug: one ? slug : `${slug}-${ch}`,
        stateTopic: `${topic}/${ch}/state`,
        setTopic: `${topic}/${ch}/set`,
        ...base,
      }
    }),
    ...motors.map(
      (m): Entity => ({
        kind: 'cover',
        name: called(m.open),
        slug: one ? slug : `${slug}-${m.open}`,
        stateTopic: `${topic}/${m.open}/state`,
        setTopic: `${topic}/${m.open}/set`,
        ...base,
      }),
    ),
    ...(hasMeter
      ? [
          {
            kind: 'sensor' as const,
            name: `${name} power`,
            slug: `${slug}-power`,
            room: room || null,
            stateTopic: `${topic}/power`,
            onlineTopic: `${topic}/online`,
            unit: 'W',
          },
        ]
      : []),
  ]
}
